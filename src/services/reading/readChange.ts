import type { Day } from '../../core/calendar/day';
import { inSpan, type ChangeSpans, type Span } from '../../core/calendar/span';
import type { Change } from '../../core/model/change';
import type { ReadingInput } from '../../core/reading/input';
import type { Narrowing } from '../../core/reading/narrowing';
import type { Carrier, MovesWith, Reading } from '../../core/reading/readingModel';
import { makeReading } from '../../core/reading/reading';
import { coveredDaysIn } from '../../store/figures/coverage';
import { matchingPeriods } from '../../store/figures/periods';
import type { Engines } from '../site/engines';
import { carriersFor } from '../pages/movedPages';
import { readingSource, type ReadingSource } from './readingSource';
import type { SiteContext } from '../site/siteContext';
import { resultsEventsFor } from '../wording/resultPages';
import { spansOf, wholeSpan, type SpanQuery } from './readingSpans';
import { wrongTwins, wrongTwinText } from '../pages/twins';
import { commonPart } from '../../core/words/common';
import { saidOtherwise } from './completedVerdicts';

/** What a reading is to be narrowed to, besides its spans. */
export type ReadingQuery = SpanQuery & Partial<Narrowing> & { readonly asOf?: Day | null };

/** The days of which a site has figures, as a reading asks for them. */
export type CoveredDays = Pick<ReadingInput, 'daysWithFigures' | 'daysWithQueries' | 'lastReadable'>;

/** The days within a span of which a site has figures of pages, and those with rows by query. */
export function coveredDaysOf({ db, site, lastReadable }: SiteContext, span: Span): CoveredDays {
  return {
    lastReadable,
    daysWithFigures: coveredDaysIn(db, site.id, span),
    daysWithQueries: coveredDaysIn(db, site.id, span, true),
  };
}

/** A change and what else a reading of it is made from. */
export type ReadingTask = {
  readonly change: Change;
  readonly spans: ChangeSpans;
  readonly covered: CoveredDays;
  readonly otherChanges: readonly Change[];
  readonly wrongTwins: readonly string[];
  readonly carriers?: readonly Carrier[];
  readonly resultsEvents?: ReadingInput['resultsEvents'];
  readonly source: ReadingSource;
};

/** Makes a reading from figures that were fetched. */
export function readFrom(
  { site, events, today }: SiteContext,
  engines: Engines,
  {
    change,
    spans,
    covered,
    otherChanges,
    wrongTwins,
    carriers = [],
    resultsEvents = [],
    source,
  }: ReadingTask,
): Reading {
  const pageIds = change.pages.map((page) => page.id);
  return makeReading({
    ...{ today, events, change, otherChanges, wrongTwins, carriers, resultsEvents },
    ...covered,
    ...source,
    windowDays: spans.windowDays,
    settlingDays: spans.settlingDays,
    provisionalDays: site.provisionalDays,
    sharesIn: (before, after) => engines.shares(site, pageIds, before, after),
  });
}

/** The reading of one change with all that belongs to it, narrowed as wished. */
export function readChange(
  context: SiteContext,
  engines: Engines,
  whole: Change,
  wish: ReadingQuery = {},
): Reading {
  const { change, narrowed, spans, span } = narrowedTo(context, whole, wish);
  const task: ReadingTask = {
    ...{ change, spans, otherChanges: context.made },
    wrongTwins: wrongTwins(
      context,
      change.pages.map(({ address }) => address),
    ).map(wrongTwinText),
    covered: coveredDaysOf(context, span),
    carriers: carriersFor(context, change, span),
    resultsEvents: resultsEventsFor(
      context,
      narrowed.query === null ? change : { ...change, queries: [narrowed.query] },
    ),
    source: readingSource(context, engines, change, span, narrowed),
  };
  const reading = readFrom(context, engines, fromPeriods(context, task) ?? task);
  return {
    ...reading,
    change: whole,
    asOf: context.asOf,
    movesWith: movesWith(context, engines, task, reading),
    saidAtCompletion: isPlain(wish) && context.asOf === null ? saidOtherwise(context, reading) : null,
  };
}

/** A change with the pages that a reading of it is narrowed to, and the spans it is of. */
function narrowedTo(context: SiteContext, whole: Change, wish: ReadingQuery) {
  const { query = null, device = null, pageId = null, country = null } = wish;
  const narrowed: Narrowing = { query, device, pageId, country };
  const pages = whole.pages.filter((page) => pageId === null || page.id === pageId);
  const change = { ...whole, pages };
  const spans = spansOf(context.site, change, wish);
  return { change, narrowed, spans, span: wholeSpan(spans) };
}

/** The figures that a reading of a change is made of. */
export function sourceOf(
  context: SiteContext,
  engines: Engines,
  whole: Change,
  wish: ReadingQuery,
): ReadingSource {
  const { change, narrowed, span } = narrowedTo(context, whole, wish);
  return readingSource(context, engines, change, span, narrowed);
}

/** Whether a reading is asked for as the ledger has it. */
function isPlain({ windowDays, settlingDays, query, device, pageId, country }: ReadingQuery): boolean {
  return [windowDays, settlingDays, query, device, pageId, country].every((one) => one == null);
}

function movesWith(
  { site }: SiteContext,
  engines: Engines,
  { change, source: { engine, narrowed } }: ReadingTask,
  { yardstick }: Reading,
): MovesWith | null {
  if (!engine || !yardstick || yardstick.group === null || narrowed.query !== null) return null;
  const { groups } = engine.groupsAt(change.day);
  const own = new Set(change.pages.map(({ id }) => id));
  const others = (groups[yardstick.group] ?? []).filter((id) => !own.has(id));
  // Group 0 is made of those that move with too few others.
  if (others.length === 0 || (yardstick.groupLearned && yardstick.group === 0)) return null;
  return {
    others: others.length,
    mostly: commonPart(engines.pages(site, others).map(({ address }) => address)),
  };
}

/**
 * A plain before and after from period totals, if there are no daily figures on both sides and
 * periods match.
 */
function fromPeriods({ db, site }: SiteContext, task: ReadingTask): ReadingTask | null {
  const { change, spans, source, covered } = task;
  const has = (span: Span) => source.pageDays.some(({ day }) => inSpan(day, span));
  if (
    source.narrowed.device !== null ||
    source.narrowed.country !== null ||
    (has(spans.before) && has(spans.after))
  )
    return null;
  const pageIds = change.pages.map((page) => page.id);
  const periods = matchingPeriods(db, site.id, pageIds, spans, source.narrowed.query);
  if (!periods) return null;
  return {
    ...task,
    covered: {
      lastReadable: Math.max(covered.lastReadable ?? 0, spans.after.lastDay) as Day,
      daysWithFigures: periods.days,
      daysWithQueries: periods.days,
    },
    source: {
      ...source,
      pageDays: periods.rows.map((row) => ({ ...row, fromQueries: false })),
      queryDays: [],
      engine: null,
      rows: [],
      fromPeriods: true,
      detail: null,
    },
  };
}
