import type { ExpectedClicks } from '../measures/comparison';
import { averagePosition, type Totals } from '../measures/totals';
import type { PositionCurve } from '../appeal/positionCurve';
import { shareProduct } from './sharing';

/** One query on the pages of a reading, in both spans; null where it had no impressions. */
export type QueryTotals = {
  readonly query: string;
  readonly before: Totals | null;
  readonly after: Totals | null;
};

/** Clicks more or fewer, by reason. */
export type Shares = { readonly reach: number; readonly rank: number; readonly appeal: number };

export type QueryReasons = QueryTotals &
  Shares & {
    readonly seen: 'kept' | 'new' | 'lost';
    /** Expected clicks by the curve; null without impressions or position. */
    readonly expected: ExpectedClicks;
  };

/**
 * Why clicks changed: reach, rank, appeal and unseen add up to total. Queries with the largest
 * change first.
 */
export type Reasons = Shares & {
  readonly total: number;
  readonly unseen: number;
  readonly queries: readonly QueryReasons[];
};

/**
 * Decomposes the change of a page’s clicks by query into reach (impressions), rank (expected CTR at
 * the position) and appeal (clicks beyond that). `unseen` is the part of rare queries, which rows
 * don’t show. A query in one span only is all reach. The four parts add up to the change of the
 * totals.
 */
export function whyClicksMoved(
  before: Totals,
  after: Totals,
  queries: readonly QueryTotals[],
  curve: PositionCurve,
): Reasons {
  const shared = queries.map((one): QueryReasons => ({
    ...one,
    ...shareQuery(one, curve),
    seen: seenIn(one),
    expected: { before: expectedOf(one.before, curve), after: expectedOf(one.after, curve) },
  }));
  const sum = (of: (one: QueryReasons) => number) => shared.reduce((total, one) => total + of(one), 0);
  const [reach, rank, appeal] = [sum((q) => q.reach), sum((q) => q.rank), sum((q) => q.appeal)];
  const total = after.clicks - before.clicks;
  const ofQueries = sum((q) => (q.after?.clicks ?? 0) - (q.before?.clicks ?? 0));
  // The queries' shares add up to their difference but for rounding in the last binary digit.
  const rounding = ofQueries - (reach + rank + appeal);
  return {
    total,
    reach: reach + rounding,
    rank,
    appeal,
    unseen: total - ofQueries,
    queries: shared.sort((a, b) => size(b) - size(a) || (a.query < b.query ? -1 : 1)),
  };
}

function size({ reach, rank, appeal }: Shares): number {
  return Math.abs(reach) + Math.abs(rank) + Math.abs(appeal);
}

function expectedOf(totals: Totals | null, curve: PositionCurve): number | null {
  const position = totals && averagePosition(totals);
  return totals && position !== null ? totals.impressions * curve(position) : null;
}

function seenIn({ before, after }: QueryTotals): QueryReasons['seen'] {
  if (!before) return 'new';
  return after ? 'kept' : 'lost';
}

function shareQuery({ before, after }: QueryTotals, curve: PositionCurve): Shares {
  if (!before || !after) return { reach: (after?.clicks ?? 0) - (before?.clicks ?? 0), rank: 0, appeal: 0 };
  const [from, to] = [averagePosition(before), averagePosition(after)];
  // Where a position is absent, rank cannot have a part.
  const known = from !== null && to !== null;
  const [e0, e1] = known ? [curve(from), curve(to)] : [1, 1];
  const appealOf = (t: Totals, e: number) => t.clicks / (t.impressions * e);
  const [reach, rank, appeal] = shareProduct(
    [before.impressions, e0, appealOf(before, e0)],
    [after.impressions, e1, appealOf(after, e1)],
  );
  return { reach, rank, appeal };
}
