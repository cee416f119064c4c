import { addDays } from '../../core/calendar/day';
import { spanLength, type Span } from '../../core/calendar/span';
import { asNet, type Estimates, type Net } from '../../core/effect/effect';
import { byMetric } from '../../core/measures/registry';
import type { EffectEngine } from '../../core/effect/engine';
import { markOf, type Mark } from '../../core/effect/verdict';
import { movedMeasures, type MovedMeasures } from '../../core/effect/movedMeasures';
import { DEVICES } from '../../core/intake/rowReader';
import { Accumulator } from '../../core/measures/accumulator';
import { compareTotals, NOT_KNOWN, type Metrics } from '../../core/measures/comparison';
import type { Totals } from '../../core/measures/totals';
import type { Metric } from '../../core/measures/registry';
import { queryRowId } from '../../store/figures/queries';
import { queryIdOf } from '../../store/figures/queryIds';
import { SITE_ROW, WHOLE, type Engines } from '../site/engines';
import type { SiteContext } from '../site/siteContext';

/** What is compared over which spans: pages by id (null: the whole site), a query, a device. */
export type SubjectQuery = {
  readonly pageIds: readonly number[] | null;
  readonly query: string | null;
  readonly device: keyof typeof DEVICES | null;
  readonly before: Span;
  readonly after: Span;
};

/** A subject over two spans, beside what would have happened anyway. */
export type SubjectComparison = {
  readonly metrics: Metrics;
  readonly net: Net | null;
  readonly marks: Readonly<Record<Metric, Mark | null>>;
  readonly moved: MovedMeasures | null;
  readonly estimates: Estimates | null;
  /** `own-past`: the whole site has no other pages to be held against. */
  readonly control: { readonly kind: 'yardstick' | 'own-past'; readonly pages: number } | null;
  /** Whether figures reach over both spans. */
  readonly complete: boolean;
};

/**
 * Compares any subject over any two spans, the second after the first. Several pages are pooled;
 * the whole site is one row, compared with its own past. Null without figures.
 */
export function compareSubject(
  { db, site, known }: SiteContext,
  engines: Engines,
  { pageIds, query, device, before, after }: SubjectQuery,
): SubjectComparison | null {
  if (!known) return null;
  const part = { ...WHOLE, device: DEVICES[device ?? 'all'] };
  const queryId = query === null ? null : queryIdOf(db, site.id, query);
  const pages = pageIds ?? (query === null ? engines.pageIds(site) : engines.pageIdsForQueries(site));
  const engine =
    query !== null
      ? engines.queryEngine(site, known, pages, { text: query, id: queryId }, part)
      : pageIds === null
        ? engines.siteEngine(site, known, part)
        : engines.engine(site, known, part, pageIds);
  if (!engine) return null;
  const ids = query !== null ? (queryId === null ? [] : [queryRowId(queryId)]) : (pageIds ?? [SITE_ROW]);
  const day = addDays(before.lastDay, 1);
  const horizon = { days: spanLength(after), settlingDays: after.firstDay - day };
  const ownPast = pageIds === null && query === null;
  const compared = engine.compare({ ids, day, horizon, ...(ownPast ? { control: { ids: [] } } : {}) });
  const appealKnown = query !== null || engines.knowsAppealOf(site, part, pages.length);
  const metrics = compareTotals(
    totals(engine, ids, before),
    totals(engine, ids, after),
    appealKnown
      ? { before: engine.history.expectedOf(ids, before), after: engine.history.expectedOf(ids, after) }
      : NOT_KNOWN,
  );
  const effects = compared && {
    ...compared.effects,
    ...(appealKnown ? {} : { appeal: null, showings: null }),
  };
  return {
    metrics,
    net: effects && asNet(effects, metrics.position.after),
    marks: byMetric((metric) => {
      const one = effects?.[metric];
      return one ? markOf(metric, one) : null;
    }),
    moved: compared && effects && movedMeasures(effects, compared.cut, 'clicks'),
    estimates: effects,
    control: compared && { kind: ownPast ? 'own-past' : 'yardstick', pages: compared.control.pages },
    complete: known.lastReadable >= after.lastDay,
  };
}

function totals({ history }: EffectEngine, ids: readonly number[], span: Span): Totals | null {
  const rows = ids.flatMap((id) => history.row(id) ?? []);
  const days = history.covered(span);
  if (rows.length === 0 || days === 0) return null;
  const sum = new Accumulator();
  for (const row of rows) sum.addSums(history.totals(row, span));
  return { days, ...sum };
}
