import { compareTotals } from '@/core/measures/comparison';
import { NO_FIGURES } from '@/core/measures/totals';
import type { Reasons } from '@/core/reasons/reasons';
import { proportionDifference } from '@/core/statistics/proportionDifference';
import type { QueryLine } from './QueryTable';

/** The lines of the table of queries, those that moved clicks most first. */
export function queryLines(reasons: Reasons, named: readonly string[]): QueryLine[] {
  return reasons.queries.map((one) => ({
    query: one.query,
    seen: one.seen,
    named: named.includes(one.query),
    metrics: compareTotals(one.before ?? NO_FIGURES, one.after ?? NO_FIGURES, one.expected),
    reach: one.reach,
    rank: one.rank,
    appeal: one.appeal,
    ctrMoved: ctrMoved(one),
  }));
}

/** Whether a query's CTR moved further than counting alone could make it, by the hybrid score interval at 90%. */
function ctrMoved({ before, after }: Reasons['queries'][number]): boolean {
  if (!before || !after) return false;
  const { low, high } = proportionDifference(
    { hits: before.clicks, trials: before.impressions },
    { hits: after.clicks, trials: after.impressions },
    0.9,
  );
  return low > 0 || high < 0;
}
