/* Like pages, paired before halves are drawn. */

/** What makes pages alike: how many clicks they are expected to have, their group, and how far they lie below their level. */
export type Likeness = {
  readonly pageId: number;
  readonly clicks: number;
  readonly group: number;
  /** Log ratio of the last weeks to the level before them; below nought after a dip. */
  readonly dip: number;
};

/** What the distance of two pages weighs a change of group with, in units of the others. */
const OTHER_GROUP = 1.5;
/** A dip of so much counts like a size that differs by a factor of e. */
const DIP_UNIT = 0.3;

function distance(a: Likeness, b: Likeness): number {
  const size = Math.log((a.clicks + 1) / (b.clicks + 1));
  const dip = (a.dip - b.dip) / DIP_UNIT;
  return Math.hypot(size, dip) + (a.group === b.group ? 0 : OTHER_GROUP);
}

/**
 * Pairs pages that are alike, the largest first, each with the likest of those that are left. Of an odd number the last three stay together.
 * The order in which pages are given changes nothing.
 * @example pairedLike([big, small, bigToo, smallToo]) // [[big, bigToo], [small, smallToo]]
 */
export function pairedLike(pages: readonly Likeness[]): number[][] {
  const left = [...pages].sort((a, b) => b.clicks - a.clicks || a.pageId - b.pageId);
  const blocks: number[][] = [];
  while (left.length > 3 || left.length === 2) {
    const first = left.shift()!;
    let best = 0;
    for (let i = 1; i < left.length; i++)
      if (distance(first, left[i]!) < distance(first, left[best]!)) best = i;
    const [second] = left.splice(best, 1);
    blocks.push([first.pageId, second!.pageId]);
  }
  if (left.length > 0) blocks.push(left.map(({ pageId }) => pageId));
  return blocks;
}
