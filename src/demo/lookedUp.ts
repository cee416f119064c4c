import { randomBinomial, randomLcg } from 'd3-random';
import type { Day } from '../core/calendar/day';
import type { SimulatedQueryRow } from './simulate';

/** A position that somebody looked up; 0 where the site was not among the results. */
export type CheckRow = { readonly day: Day; readonly query: string; readonly position: number };

/** Searches whose position is looked up once a week, the most seen; results that are looked at. */
const [CHECKED, CHECK_EVERY, LOOKED_AT] = [6, 7, 30];
/** Of so many who search, one is shown a page of the site. */
const SHOWN_SHARE = 0.7;

/** Positions of the most seen searches as a check once a week finds them: whole, and off by one now and then. */
export function simulateChecks(rows: readonly SimulatedQueryRow[], lastDay: Day, seed: number): CheckRow[] {
  const random = randomLcg(seed / 1000);
  const off = randomBinomial.source(random)(2, 0.5);
  const byQuery = new Map<string, Map<Day, { sum: number; weight: number }>>();
  for (const { query, day, impressions, position } of rows) {
    if ((lastDay - day) % CHECK_EVERY !== 0) continue;
    const days = byQuery.get(query) ?? new Map<Day, { sum: number; weight: number }>();
    byQuery.set(query, days);
    const known = days.get(day) ?? { sum: 0, weight: 0 };
    days.set(day, { sum: known.sum + impressions * position, weight: known.weight + impressions });
  }
  const seen = (days: Map<Day, { weight: number }>) =>
    [...days.values()].reduce((sum, { weight }) => sum + weight, 0);
  return [...byQuery]
    .sort((a, b) => seen(b[1]) - seen(a[1]) || (a[0] < b[0] ? -1 : 1))
    .slice(0, CHECKED)
    .flatMap(([query, days]) =>
      [...days].map(([day, { sum, weight }]) => {
        const position = Math.max(1, Math.round(sum / weight) + off() - 1);
        return { day, query, position: position > LOOKED_AT ? 0 : position };
      }),
    );
}

/** Searches a month of every search of the site, rounded as such counts are. */
export function searchesAMonth(
  rows: readonly SimulatedQueryRow[],
  lastDay: Day,
): { query: string; searches: number }[] {
  const shown = new Map<string, number>();
  for (const { query, day, impressions } of rows)
    if (day > lastDay - 91) shown.set(query, (shown.get(query) ?? 0) + impressions);
  return [...shown].map(([query, impressions]) => {
    const searches = impressions / 3 / SHOWN_SHARE;
    const step = searches < 100 ? 10 : searches < 1000 ? 50 : 100;
    return { query, searches: Math.max(step, Math.round(searches / step) * step) };
  });
}
