import type { Span } from '../../core/calendar/span';
import { DEVICES } from '../../core/intake/rowReader';
import type { Change } from '../../core/model/change';
import type { PageDay, ReadingInput } from '../../core/reading/input';
import type { Narrowing } from '../../core/reading/narrowing';
import { pageDaysIn, queryDaysIn } from '../../store/figures/days';
import { narrowedSeries, type NarrowedTo } from '../../store/figures/narrowed';
import { queryRowId, queryTotalsIn } from '../../store/figures/queries';
import { labelIdOf, queryIdOf } from '../../store/figures/queryIds';
import type { Db } from '../../store/database';
import { daysOf, type Engines, type Part } from '../site/engines';
import type { SiteContext } from '../site/siteContext';

/** The figures that a reading is made of, as it is narrowed. */
export type ReadingSource = Pick<
  ReadingInput,
  'narrowed' | 'appealKnown' | 'pageDays' | 'queryDays' | 'engine' | 'rows' | 'detail' | 'fromPeriods'
>;

/** Fetches the figures of a change's pages within a span, or of what the reading is narrowed to. */
export function readingSource(
  { db, site, made, known }: SiteContext,
  engines: Engines,
  change: Change,
  span: Span,
  narrowed: Narrowing,
): ReadingSource {
  const pageIds = change.pages.map((page) => page.id);
  const device = DEVICES[(narrowed.device ?? 'all') as keyof typeof DEVICES];
  const country = narrowed.country === null ? 0 : (labelIdOf(db, narrowed.country) ?? NOBODY);
  const part: Part = { device, country };
  const isWhole = device === 0 && country === 0;
  // A changed page without figures since may not be in the model; fitting it would take seconds.
  const isLogged = known?.learning === 'here' && made.some(({ id }) => id === change.id);
  const { query } = narrowed;
  const queries = query === null && isWhole ? change.queries : [];
  const whole: ReadingSource = {
    narrowed,
    appealKnown: query !== null || engines.knowsAppealOf(site, part, pageIds.length),
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
    return {
      ...whole,
      pageDays: isWhole
        ? queryDaysIn(db, site.id, query, pageIds, span).map((row) => ({ ...row, fromQueries: false }))
        : daysNarrowedTo(db, pageIds, { query: id ?? NOBODY, ...part }, span),
      engine: known && engines.queryEngine(site, known, pageIds, { text: query, id }, part),
      rows: id === null ? [] : [queryRowId(id)],
    };
  }
  return {
    ...whole,
    pageDays: isWhole ? pageDaysIn(db, pageIds, span) : engines.partDays(site, pageIds, part, span),
    engine: known && engines.engine(site, known, part, isLogged ? pageIds : []),
  };
}

/** The code of a country or a query that no row has. */
const NOBODY = -1;

function daysNarrowedTo(db: Db, pageIds: readonly number[], to: NarrowedTo, span: Span): PageDay[] {
  return narrowedSeries(db, pageIds, to).flatMap((one) => daysOf(one, span));
}
