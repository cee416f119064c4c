/* Like pages, put into blocks before halves are drawn. */

/** What makes pages alike: expected clicks, group, and dip. */
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

/** Pairs per block. More pages that can swap give more draws, and a test that needs less. */
export const PAIRS_A_BLOCK = 5;

/**
 * Blocks of like pages, within which halves are drawn: pages are paired, largest first, each with
 * the most similar page left, and up to five consecutive pairs form a block. An odd page joins the
 * last pair. The order of input doesn’t matter.
 *
 * @example likeBlocks([big, small, bigToo, smallToo]) // [[big, bigToo, small, smallToo]]
 */
export function likeBlocks(pages: readonly Likeness[]): number[][] {
  const pairs = pairedLike(pages);
  const count = Math.ceil(pairs.length / PAIRS_A_BLOCK);
  const startOf = (block: number) => Math.round((block * pairs.length) / count);
  return Array.from({ length: count }, (_, i) => pairs.slice(startOf(i), startOf(i + 1)).flat());
}

function pairedLike(pages: readonly Likeness[]): number[][] {
  const left = [...pages].sort((a, b) => b.clicks - a.clicks || a.pageId - b.pageId);
  const pairs: number[][] = [];
  while (left.length > 3 || left.length === 2) {
    const first = left.shift()!;
    let best = 0;
    for (let i = 1; i < left.length; i++)
      if (distance(first, left[i]!) < distance(first, left[best]!)) best = i;
    const [second] = left.splice(best, 1);
    pairs.push([first.pageId, second!.pageId]);
  }
  if (left.length > 0) pairs.push(left.map(({ pageId }) => pageId));
  return pairs;
}
