/* What a landing page earns, and which of its searches bring it. */

import { shareOfRevenue } from './visited';

/** What visits of a landing page came to; absent where no row said. */
export type Visited = {
  readonly sessions: number;
  readonly engaged: number | null;
  readonly conversions: number | null;
  readonly revenue: number | null;
};

/** A search that earns: its share of what its landing page earns, and what that comes to. */
export type EarningQuery = {
  readonly query: string;
  readonly clicks: number;
  readonly share: number;
  readonly conversions: number | null;
  readonly revenue: number | null;
};

/** A smaller share is not worth a line. */
const LEAST_SHARE = 0.01;

/**
 * The queries that earn most on a page, largest share first. The share of a query is its clicks
 * over the sessions of the page. Common practice, no published source.
 *
 * @example
 * const page = { sessions: 29000, engaged: null, conversions: 290, revenue: null };
 * earningQueries([{ query: 'hive kit', clicks: 800 }], page)[0].conversions // 8
 */
export function earningQueries(
  queries: readonly { readonly query: string; readonly clicks: number }[],
  { sessions, conversions, revenue }: Visited,
): EarningQuery[] {
  return queries
    .flatMap(({ query, clicks }): EarningQuery[] => {
      const share = shareOfRevenue(clicks, sessions);
      if (share === null || share < LEAST_SHARE) return [];
      return [
        {
          ...{ query, clicks, share },
          conversions: conversions === null ? null : share * conversions,
          revenue: revenue === null ? null : share * revenue,
        },
      ];
    })
    .sort((a, b) => b.share - a.share);
}
