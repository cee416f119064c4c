import type { Day } from '../calendar/day';
import { kindsOf, type Change } from '../model/change';
import { isMade } from '../model/steps';
import { ASPECTS, isWork, type Difference } from './differences';

/** Kinds of change that say in which part of a page to look for them. */
const PLACED: ReadonlySet<string> = new Set(Object.values(ASPECTS).map(({ kind }) => kind));
/** Kinds that leave nothing to be seen on the page. */
const UNSEEN: ReadonlySet<string> = new Set(['reindex-request', 'off-page', 'speed']);

/**
 * Differences between snapshots of a page, taken on days `from` and `to`, that look like work and
 * that no change logged for these days explains. Types without a page part (undo, own types)
 * explain everything.
 */
export function unloggedOf(
  differences: readonly Difference[],
  from: Day,
  to: Day,
  changesOnPage: readonly Change[],
): Difference[] {
  const kinds = changesOnPage
    .filter((change) => isMade(change) && change.day >= from && change.day <= to)
    .flatMap(kindsOf);
  if (kinds.some((kind) => !PLACED.has(kind) && !UNSEEN.has(kind))) return [];
  return differences.filter((one) => isWork(one) && !kinds.includes(one.kind));
}
