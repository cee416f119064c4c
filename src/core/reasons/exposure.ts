import { clickThroughRate, type Totals } from '../measures/totals';
import type { Estimates } from '../effect/effect';
import type { QueryTotals } from './reasons';

/**
 * The part of a CTR change that is exposure: the page appears for other queries, or in other
 * proportions, while each query keeps its CTR. Log ratios after / before; `exposure + within` is
 * the whole.
 */
export type CtrParts = { readonly exposure: number; readonly within: number };

/**
 * Splits the log ratio of a page’s CTR into exposure and changes within queries. Queries present
 * before keep their CTR, new ones have their own; what rows don’t show counts as one query. Null if
 * a side has no clicks or impressions.
 */
export function ctrParts(before: Totals, after: Totals, queries: readonly QueryTotals[]): CtrParts | null {
  if (before.clicks === 0 || after.clicks === 0) return null;
  const side = (of: 'before' | 'after') => {
    const page = of === 'before' ? before : after;
    const shown = queries.reduce((s, q) => s + (q[of]?.impressions ?? 0), 0);
    const clicked = queries.reduce((s, q) => s + (q[of]?.clicks ?? 0), 0);
    return {
      impressions: Math.max(0, page.impressions - shown),
      clicks: Math.max(0, page.clicks - clicked),
    };
  };
  const unseen = { before: side('before'), after: side('after') };
  let kept = 0;
  for (const q of [...queries, unseen]) {
    if (!q.after || q.after.impressions === 0) continue;
    const base = q.before && q.before.impressions > 0 ? q.before : q.after;
    kept += (q.after.impressions * base.clicks) / base.impressions;
  }
  if (kept <= 0) return null;
  const [now, then] = [after.clicks / after.impressions, before.clicks / before.impressions];
  const atKept = kept / after.impressions;
  return { exposure: Math.log(atKept / then), within: Math.log(now / atKept) };
}

/** Smallest fall of CTR, and rise of impressions, from which wider exposure is mentioned. */
const LEAST_FALL = 0.05;
const LEAST_RISE = 0.15;

/**
 * Whether CTR fell because the page appears for more queries, not because its appeal fell. Decided
 * from rows by query, or without them from net effects: impressions up, CTR down, clicks not down.
 */
export function ctrFellByExposure(
  before: Totals,
  after: Totals,
  queries: readonly QueryTotals[] | null,
  effects: Estimates | null,
): boolean {
  const [from, to] = [clickThroughRate(before), clickThroughRate(after)];
  const fell = from !== null && to !== null && to < from * (1 - LEAST_FALL);
  if (!fell || after.impressions < before.impressions * (1 + LEAST_RISE)) return false;
  const parts = queries && ctrParts(before, after, queries);
  if (parts) return parts.exposure <= (parts.exposure + parts.within) / 2;
  const { impressions, ctr, clicks } = effects ?? {};
  return Boolean(impressions && ctr && clicks && impressions.low > 0 && ctr.high < 0 && clicks.high > 0);
}
