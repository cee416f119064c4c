import { addDays, type Day } from '../calendar/day';
import { changeSpans, interimSpans, spanLength, type ChangeSpans, type Span } from '../calendar/span';
import { compareTotals, NOT_KNOWN, type ExpectedClicks, type Metrics } from '../measures/comparison';
import { sumFigures, type DayFigures, type Totals } from '../measures/totals';
import { isAboutAppeal, kindsOf } from '../model/change';
import { byMeasure, metricNearest, METRICS, type Measure, type Metric } from '../measures/registry';
import { isMade } from '../model/steps';
import { asNet, type Estimates } from '../effect/effect';
import type { ComparisonRequest, Comparison } from '../effect/engine';
import { markOf } from '../effect/verdict';
import { movedMeasures, type MovedMeasures } from '../effect/movedMeasures';
import { daysNeeded, expectedRatio, WAIT_DAYS } from '../effect/power';
import { ctrFellByExposure } from '../reasons/exposure';
import { whyClicksMoved, type QueryTotals } from '../reasons/reasons';
import { findCautions } from './cautions';
import { coveredDays, type ReadingInput } from './input';
import {
  ratioName,
  type Compared,
  type PageReading,
  type Reading,
  type Wait,
  type Yardstick,
} from './readingModel';
import { finalOn } from './readable';

/**
 * Reads a change: its spans, measures before and after, the movement of unchanged pages, the net
 * effect with its range, a verdict, why clicks changed, and cautions (docs/method.md). Throws
 * RangeError for impossible window or settling days.
 */
export function makeReading(input: ReadingInput): Reading {
  const { change } = input;
  // Of what is still to be made nothing can be read but the days before it.
  const planned = change.day > input.today || !isMade(change);
  const lastReadable = planned ? earlier(input.lastReadable, addDays(change.day, -1)) : input.lastReadable;
  const spans = changeSpans(change.day, input.windowDays, input.settlingDays);
  const complete = lastReadable !== null && lastReadable >= spans.after.lastDay;
  const compared = comparedSpans(spans, lastReadable);
  const yetToCome = (day: Day): Day | null => {
    const expected = finalOn(day, input.provisionalDays);
    return expected > input.today ? expected : null;
  };

  const sums = (rows: readonly DayFigures[], covered: ReadonlySet<Day>) => {
    const total = (span: Span | null | undefined) =>
      span && coveredDays(span, covered) > 0 ? sumFigures(rows, span) : null;
    return { before: total(compared?.before), after: total(compared?.after) };
  };
  const asMetrics = (
    { before, after }: { before: Totals | null; after: Totals | null },
    expected?: ExpectedClicks,
  ): Metrics => compareTotals(before, after, expected);
  // A single query is known on days with rows by query only, even where the page is known.
  const whole = sums(
    input.pageDays,
    input.narrowed.query === null ? input.daysWithFigures : input.daysWithQueries,
  );
  const appealKnown = input.appealKnown ?? true;
  const metrics = asMetrics(whole, compared && appealKnown ? expectedClicks(input, compared) : NOT_KNOWN);
  const both = whole.before && whole.after ? { before: whole.before, after: whole.after } : null;
  const asked = compared?.after ? askedOf(input, spanLength(compared.after)) : null;
  const comparison = (both && asked && input.engine?.compare(asked)) || null;
  const effects = comparison && !appealKnown ? withoutAppeal(comparison) : comparison;
  const moved = verdictBy(input, effects);
  const { judged } = moved;
  const queries = both && compared?.after ? queriesOf(input, compared.before, compared.after) : null;
  const marks = byMeasure((measure) => markIn(effects, measure));

  const reading: Omit<Reading, 'cautions'> = {
    change,
    narrowed: input.narrowed,
    spans: {
      ...spans,
      complete,
      completeOn: complete ? null : yetToCome(spans.after.lastDay),
      // Incomplete spans are compared in whole weeks, so spans of a week or less have no interim
      // figure.
      interimOn:
        compared?.after || spans.windowDays <= 7 ? null : yetToCome(addDays(spans.after.firstDay, 6)),
      planned,
    },
    compared,
    metrics,
    queries: input.queryDays.map(({ query, days }) => ({
      query,
      metrics: asMetrics(sums(days, input.daysWithQueries)),
    })),
    judged,
    verdict: complete ? (moved.mark ?? 'unclear') : 'waiting',
    movedIn: complete ? moved.movedIn : null,
    opposed: moved.opposed,
    early: complete || planned || !appealKnown ? null : earlyLook(input, spans, lastReadable),
    estimates: effects && effects.effects,
    net: effects && asNet(effects.effects, metrics.position.after),
    marks,
    yardstick: effects && asYardstick(effects),
    swing: effects && effects.placebo(judged),
    pages: effects && compared?.after ? eachPage(input, effects, compared.before, compared.after) : [],
    yearBefore:
      both && compared?.after && input.detail ? aYearBefore(input, compared.before, compared.after) : null,
    reasons:
      both && queries && input.detail
        ? whyClicksMoved(both.before, both.after, queries, input.detail.curve)
        : null,
    widerExposure:
      both !== null &&
      knowsExposure(input, queries) &&
      ctrFellByExposure(both.before, both.after, queries, effects?.effects ?? null),
    wait:
      input.detail || planned
        ? waitOf(input, change.expectation?.metric ?? metricNearest(judged), metrics)
        : null,
    carriers: input.carriers ?? [],
    asOf: null,
    saidAtCompletion: null,
    movesWith: null,
  };
  return { ...reading, cautions: findCautions(input, reading, effects) };
}

function earlier(day: Day | null, bound: Day): Day | null {
  return day !== null && day > bound ? bound : day;
}

function comparedSpans(spans: ChangeSpans, lastReadable: Day | null): Compared {
  if (lastReadable === null) return null;
  if (lastReadable >= spans.after.lastDay) return { before: spans.before, after: spans.after };
  const interim = interimSpans(spans, lastReadable);
  if (interim) return interim;
  const { firstDay, lastDay } = spans.before;
  if (lastReadable < firstDay) return null;
  return { before: { firstDay, lastDay: lastReadable < lastDay ? lastReadable : lastDay }, after: null };
}

function askedOf({ rows, change, settlingDays }: ReadingInput, days: number): ComparisonRequest {
  return { ids: rows, day: change.day, horizon: { days, settlingDays } };
}

/** The clicks that the showings in the spans compared would bring at the usual CTR by position. */
function expectedClicks(
  { engine, rows }: ReadingInput,
  { before, after }: NonNullable<Compared>,
): ExpectedClicks {
  const over = (span: Span | null) => (span && engine ? engine.history.expectedOf(rows, span) : null);
  return { before: over(before), after: over(after) };
}

/** A comparison without appeal and expected clicks, which need rows by query. */
function withoutAppeal(comparison: Comparison): Comparison {
  const without = (effects: Estimates): Estimates => ({ ...effects, appeal: null, showings: null });
  return {
    ...comparison,
    effects: without(comparison.effects),
    rows: comparison.rows.map((row) => ({ ...row, effects: without(row.effects) })),
  };
}

/** The verdict by what moved, whatever was expected; for a single page, by its own effects. */
function verdictBy(
  { change }: ReadingInput,
  effects: Pick<Comparison, 'effects' | 'cut'> | null,
): MovedMeasures {
  if (!effects)
    return { mark: null, judged: change.expectation?.metric ?? 'clicks', movedIn: null, opposed: null };
  const lead = kindsOf(change).some(isAboutAppeal) ? 'appeal' : 'clicks';
  return movedMeasures(effects.effects, effects.cut, lead);
}

/** What was plain on a look on any day so far. */
function earlyLook(input: ReadingInput, spans: ChangeSpans, lastReadable: Day | null): Reading['early'] {
  const { firstDay } = spans.after;
  if (!input.engine || lastReadable === null || lastReadable < firstDay) return null;
  const call = input.engine.early(askedOf(input, spans.windowDays), lastReadable - firstDay + 1);
  if (!call) return null;
  return {
    called: call.up ? 'lifted' : 'dropped',
    movedIn: call.measure,
    day: addDays(firstDay, call.look - 1),
    look: call.look,
  };
}

function queriesOf(
  { detail, narrowed }: ReadingInput,
  before: Span,
  after: Span,
): readonly QueryTotals[] | null {
  return detail && narrowed.device === null ? detail.queriesIn(before, after) : null;
}

function markIn(effects: Comparison | null, measure: Measure) {
  const effect = effects?.effects[measure];
  return effect ? markOf(measure, effect) : null;
}

/**
 * Whether the cause of a CTR fall can be stated. Rows by query decide, if there are any; they are
 * only loaded for a reading by itself.
 */
function knowsExposure({ daysWithQueries }: ReadingInput, queries: readonly QueryTotals[] | null): boolean {
  return queries !== null || daysWithQueries.size === 0;
}

function asYardstick({ control: yardstick }: Comparison): Yardstick {
  const { pages, groupPages, groupWeight, groupLearned, group, tracking, move } = yardstick;
  const ratios = METRICS.map((metric) => [
    ratioName(metric),
    move[metric] === null ? null : Math.exp(move[metric]),
  ]);
  return {
    ...(Object.fromEntries(ratios) as { [M in Metric as `${M}Ratio`]: number | null }),
    pages,
    groupPages,
    groupWeight,
    groupLearned,
    group,
    tracking,
  };
}

/** Each page by itself, with the verdict that it would have as the only page of the change. */
function eachPage(
  input: ReadingInput,
  { rows: pages, cut }: Comparison,
  before: Span,
  after: Span,
): PageReading[] {
  const history = input.engine?.history;
  if (pages.length < 2 || !history) return [];
  const totals = (id: number, span: Span) => {
    const row = history.row(id);
    return row === undefined ? null : history.totals(row, span);
  };
  return pages.map(({ id, effects, positionAfter }) => {
    const { mark, judged } = verdictBy(input, { effects, cut });
    const raw = compareTotals(totals(id, before), totals(id, after));
    return { id, raw, net: asNet(effects, positionAfter), mark, judged };
  });
}

/** Days to the same weekday a year earlier. */
const YEAR_DAYS = 364;

/** A second opinion: what the same pages did between the same spans a year earlier. */
function aYearBefore(input: ReadingInput, before: Span, after: Span): Reading['yearBefore'] {
  const { engine, rows, change, settlingDays } = input;
  const back = (span: Span): Span => ({
    firstDay: addDays(span.firstDay, -YEAR_DAYS),
    lastDay: addDays(span.lastDay, -YEAR_DAYS),
  });
  if (!engine || back(before).firstDay < engine.history.firstDay) return null;
  const clicks = (span: Span) =>
    rows.reduce((sum, id) => {
      const row = engine.history.row(id);
      return row === undefined ? sum : sum + engine.history.totals(row, span).clicks;
    }, 0);
  const [was, became] = [clicks(back(before)), clicks(back(after))];
  if (was === 0) return null;
  const horizon = { days: spanLength(after), settlingDays };
  const effects = engine.compare({ ids: rows, day: addDays(change.day, -YEAR_DAYS), horizon });
  const net = effects?.effects.clicks?.net;
  return { clicksRatio: became / was, netRatio: net === undefined ? null : Math.exp(net) };
}

function waitOf(input: ReadingInput, judged: Metric, metrics: Metrics): Wait | null {
  const { engine, rows, change, settlingDays, windowDays } = input;
  if (!engine) return null;
  const lengths = [...new Set([...WAIT_DAYS, windowDays])].sort((a, b) => a - b);
  const showable = engine.showable(judged, change.day, rows, lengths, settlingDays);
  if (showable.length === 0) return null;
  const { expectation } = change;
  const ratio =
    expectation && expectation.amount !== null
      ? expectedRatio(judged, expectation.direction, expectation.amount, metrics.position.before)
      : null;
  return {
    metric: judged,
    showable,
    expectedRatio: ratio,
    daysNeeded: ratio === null ? null : daysNeeded(showable, ratio),
  };
}
