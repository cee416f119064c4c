import type { Span } from '../core/calendar/span';
import { DEVICES } from '../core/intake/rowReader';
import type { Change } from '../core/model/change';
import type { Narrowing, ReadingInput } from '../core/reading/input';
import { pageDaysIn, queryDaysIn } from '../store/figures/days';
import { queryRowId, queryTotalsIn } from '../store/figures/queries';
import { queryIdOf } from '../store/figures/queryIds';
import type { Engines } from './engines';
import type { SiteContext } from './siteContext';

/** The figures that a reading is made of, as it is narrowed. */
export type ReadingSource = Pick<
  ReadingInput,
  'narrowed' | 'pageDays' | 'queryDays' | 'engine' | 'rows' | 'detail' | 'fromPeriods'
>;

/** Fetches the figures of a change's pages within a span, or of the query or device that the reading is narrowed to. */
export function readingSource(
  { db, site, made, lastReadable }: SiteContext,
  engines: Engines,
  change: Change,
  span: Span,
  narrowed: Narrowing,
): ReadingSource {
  const pageIds = change.pages.map((page) => page.id);
  const device = DEVICES[(narrowed.device ?? 'all') as keyof typeof DEVICES];
  const { query } = narrowed;
  const queries = query === null && device === 0 ? change.queries : [];
  const whole: ReadingSource = {
    narrowed,
    pageDays: [],
    queryDays: queries.map((text) => ({
      query: text,
      days: queryDaysIn(db, site.id, text, pageIds, span),
    })),
    engine: null,
    rows: pageIds,
    detail: {
      queriesIn: (before, after) => {
        const all = queryTotalsIn(db, pageIds, before, after);
        return query === null || all === null ? all : all.filter((one) => one.query === query);
      },
      curve: engines.curve(site),
    },
  };
  if (query !== null) {
    const id = queryIdOf(db, site.id, query);
    const days = queryDaysIn(db, site.id, query, pageIds, span);
    return {
      ...whole,
      pageDays: days.map((row) => ({ ...row, fromQueries: false })),
      engine: lastReadable === null ? null : engines.queryEngine(site, made, pageIds, query, lastReadable),
      rows: id === null ? [] : [queryRowId(id)],
    };
  }
  const engine = lastReadable === null ? null : engines.engine(site, made, lastReadable, device);
  const pageDays =
    device === 0 ? pageDaysIn(db, pageIds, span) : engines.deviceDays(site, pageIds, device, span);
  return { ...whole, pageDays, engine };
}
