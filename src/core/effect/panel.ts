/* A stratified systematic sample: the pages that stand for a large site, by group and size. */

import type { Series } from '../history/history';

/** Target size of the control. More pages add work and almost no weight. */
const MOST_PAGES = 150;
/** Of every group at least so many, so that each has a control of its own. */
const FEWEST_OF_GROUP = 5;

/**
 * Ids of the pages that make up the control: all pages of a small site. On a large one each group
 * is sampled in proportion to its clicks and pages, systematically by clicks, with larger pages
 * more often. Pages without clicks come last.
 *
 * @example controlSample(tenPages, () => 0).size // 10: every page of a small site
 */
export function controlSample(
  series: readonly Series[],
  groupOf: (id: number) => number,
  most = MOST_PAGES,
): Set<number> {
  if (series.length <= most) return new Set(series.map(({ id }) => id));
  const groups = new Map<number, { id: number; size: number }[]>();
  for (const one of series) {
    const group = groupOf(one.id);
    const member = { id: one.id, size: Math.sqrt(clicksOf(one)) };
    const known = groups.get(group);
    if (known) known.push(member);
    else groups.set(group, [member]);
  }
  const sizeOf = (members: readonly { size: number }[]) => members.reduce((sum, { size }) => sum + size, 0);
  const all = sizeOf([...groups.values()].flat());
  const chosen = new Set<number>();
  for (const members of groups.values()) {
    const share = all > 0 ? sizeOf(members) / all : members.length / series.length;
    const wanted = Math.min(members.length, Math.max(FEWEST_OF_GROUP, Math.round(most * share)));
    for (const id of systematic(members, wanted)) chosen.add(id);
  }
  return chosen;
}

/** Systematic sampling: members drawn with probability proportional to size, at equal steps. */
function systematic(members: readonly { id: number; size: number }[], wanted: number): number[] {
  const ranked = [...members].sort((a, b) => b.size - a.size || a.id - b.id);
  const total = ranked.reduce((sum, { size }) => sum + size, 0);
  const chosen: number[] = [];
  let [along, next] = [0, 0];
  ranked.forEach(({ id, size }, rank) => {
    along += total > 0 ? (size * wanted) / total : 0;
    const left = ranked.length - rank;
    if (chosen.length < wanted && (along > next || left <= wanted - chosen.length)) {
      chosen.push(id);
      next += 1;
    }
  });
  return chosen;
}

function clicksOf({ clicks }: Series): number {
  let sum = 0;
  for (let i = 0; i < clicks.length; i++) sum += clicks[i]!;
  return sum;
}
