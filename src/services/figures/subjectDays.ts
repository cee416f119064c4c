import { addDays, type Day } from '../../core/calendar/day';
import type { Span } from '../../core/calendar/span';
import type { Series } from '../../core/history/history';
import type { SubjectDays } from '../../core/history/subjectDays';
import { Accumulator } from '../../core/measures/accumulator';
import { queryDaysIn } from '../../store/figures/days';
import { pairFigures } from '../../store/figures/pairs';
import type { Engines } from '../site/engines';
import type { QueryPages } from './queryPages';
import type { SiteContext } from '../site/siteContext';
import type { SiteFigures } from '../site/siteFigures';

/** Number of pages beyond which mean positions are used: their rows by query are millions. */
const MOST_BY_QUERY = 60;
/** Days of a subject's strips where none are said. */
export const STRIP_DAYS = 182;

/** What is shown day by day: pages (null: all), or a query on them, of one device or (0) of all. */
export type DaysQuery = {
  readonly pageIds: readonly number[] | null;
  readonly query: string | null;
  readonly device: number;
  readonly span: Span | null;
};

/** The figures of a subject day by day; null where the site has none. */
export function subjectDays(
  context: SiteContext,
  { engines, queryPages }: { readonly engines: Engines; readonly queryPages: QueryPages },
  wish: DaysQuery,
): SubjectDays | null {
  const { site, lastReadable } = context;
  const figures = engines.figures(site);
  if (!figures || lastReadable === null) return null;
  const first = Math.max(figures.firstDay, addDays(lastReadable, 1 - STRIP_DAYS)) as Day;
  const shown = wish.span ?? { firstDay: first, lastDay: lastReadable };
  const wanted = wish.pageIds && new Set(wish.pageIds);
  const series = figures.seriesOf(wish.device).filter(({ id }) => wanted === null || wanted.has(id));
  const { sums, expected } =
    wish.query === null
      ? ofPages(context, figures, series, shown, wish.device)
      : ofQuery(
          context,
          figures,
          queryPages.of(context, wish.query, wish.pageIds && series.map(({ id }) => id)),
          shown,
          wish.query,
        );
  const appealKnown =
    wish.query !== null || engines.knowsAppealOf(site, { device: wish.device, country: 0 }, series.length);
  const days: Record<'clicks' | 'impressions' | 'appeal' | 'position', (number | null)[]> = {
    ...{ clicks: [], impressions: [], appeal: [], position: [] },
  };
  for (let day = shown.firstDay; day <= shown.lastDay; day = addDays(day, 1)) {
    const at = day - shown.firstDay;
    const known = figures.covered.has(day);
    const sum = sums[at]!;
    // Over a week, so that the weekday is left out and a handful of clicks is no jump.
    let [clicks, base] = [0, 0];
    for (let i = Math.max(0, at - 6); i <= at; i++) {
      clicks += sums[i]!.clicks;
      base += expected[i]!;
    }
    days.clicks.push(known ? sum.clicks : null);
    days.impressions.push(known ? sum.impressions : null);
    days.position.push(known && sum.positionWeight > 0 ? sum.positionSum / sum.positionWeight : null);
    days.appeal.push(appealKnown && known && at >= 6 && base > 0 ? clicks / base : null);
  }
  return { shown, ...days };
}

type ByDay = { readonly sums: readonly Accumulator[]; readonly expected: Float64Array };

function emptyDays({ firstDay, lastDay }: Span): { sums: Accumulator[]; expected: Float64Array } {
  const days = Math.max(0, lastDay - firstDay + 1);
  return { sums: Array.from({ length: days }, () => new Accumulator()), expected: new Float64Array(days) };
}

function ofPages(
  { db }: SiteContext,
  figures: SiteFigures,
  series: readonly Series[],
  shown: Span,
  device: number,
): ByDay {
  const { sums, expected } = emptyDays(shown);
  const exact =
    series.length <= MOST_BY_QUERY
      ? pairFigures(db, series, { now: shown, was: null }, device, figures.curve).showings
      : null;
  for (const page of series) {
    const own = exact?.get(page.id);
    const plain = own ? null : figures.withPlainShowings(page).expected!;
    for (let at = 0; at < sums.length; at++) {
      const place = shown.firstDay + at - page.firstDay;
      if (place < 0 || place >= page.clicks.length) continue;
      sums[at]!.addSums({
        ...{ clicks: page.clicks[place]!, impressions: page.impressions[place]! },
        ...{ positionSum: page.positionSum[place]!, positionWeight: page.positionWeight[place]! },
      });
      expected[at]! += own ? (own.days[shown.firstDay + at - own.firstDay] ?? 0) : plain![place]!;
    }
  }
  return { sums, expected };
}

function ofQuery(
  { db, site }: SiteContext,
  figures: SiteFigures,
  ids: readonly number[],
  shown: Span,
  query: string,
): ByDay {
  const { sums, expected } = emptyDays(shown);
  for (const day of queryDaysIn(db, site.id, query, ids, shown)) {
    const at = day.day - shown.firstDay;
    sums[at]!.addSums(day);
    if (day.positionWeight > 0)
      expected[at]! += day.impressions * figures.curve(day.positionSum / day.positionWeight);
  }
  return { sums, expected };
}
