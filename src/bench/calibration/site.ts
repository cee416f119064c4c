import { positionCurve, type PositionBin, type PositionCurve } from '../../core/appeal/positionCurve';
import { ShowingsSum } from '../../core/appeal/showings';
import { asDay } from '../../core/calendar/day';
import type { Groups } from '../../core/effect/rows';
import { History } from '../../core/history/history';
import type { SimulatedQuery, SimulatedSite } from './simulate';

/** What is read: pages with the groups that their paths show, every day with figures. */
export type ReadSite = { readonly history: History; readonly groups: Groups };

type Page = SimulatedSite['pages'][number];

/** Pages with figures on so many days, the first of them day 0, as the program has them. */
export function siteOf(pages: readonly Page[], days: number): ReadSite {
  const first = asDay(0);
  const curve = positionCurve(pages.flatMap(({ queries }, page) => binsOf(page, queries)));
  const history = new History(
    first,
    days,
    pages.map((page, id) => ({
      ...{ id, firstDay: first, ...page },
      // Without searches impressions and the position of the whole stand in for these.
      ...(page.queries.length > 0 ? showingsOf(page, curve) : {}),
    })),
    Array.from({ length: days }, (_, i) => asDay(i)),
  );
  const of = pages.map((page) => page.path);
  return { history, groups: { of, count: Math.max(...of) + 1 } };
}

/** A page's rows by query at about each position. */
function binsOf(page: number, queries: readonly SimulatedQuery[]): PositionBin[] {
  const bins = new Map<number, { page: number; position: number; clicks: number; impressions: number }>();
  for (const query of queries) {
    query.impressions.forEach((impressions, day) => {
      if (impressions === 0) return;
      const position = Math.round((2 * query.positionSum[day]!) / impressions) / 2;
      const bin = bins.get(position) ?? { page, position, clicks: 0, impressions: 0 };
      bins.set(position, bin);
      bin.impressions += impressions;
      bin.clicks += query.clicks[day]!;
    });
  }
  return [...bins.values()];
}

/** What a page's showings come to, from its rows by query. */
function showingsOf(page: Page, curve: PositionCurve) {
  const sum = new ShowingsSum({ ...page, firstDay: asDay(0) }, curve);
  page.queries.forEach(({ impressions, positionSum }, query) =>
    impressions.forEach((shown, day) => sum.add(asDay(day), query, shown, positionSum[day]!)),
  );
  return sum.total();
}
