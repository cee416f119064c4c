/* Log ratios of two spans, with the variance that counting alone gives them. */

import type { Day } from '../calendar/day';
import { changeSpans, type Span } from '../calendar/span';
import type { History } from '../history/history';
import { METRICS, type Metric } from '../model/change';
import { byMetric } from './effect';

/** Days of the long level before the before span (docs/method.md, 6), and the fewest of them that say anything. */
export const LONG_DAYS = 112;
const FEWEST_LONG_DAYS = 28;
/** Days at the end of the before span that show where a page was heading, and the fewest of them with figures. */
const PRE_TREND_DAYS = 7;
const FEWEST_PRE_TREND_DAYS = 5;

/** Counting noise of a position's logarithm for each impression; the swing takes up what this leaves. */
export const POSITION_NOISE = 0.4;

/**
 * How one metric of each row moved between two spans, on the log scale (log of the ratio after / before; for position
 * of the ratio of positions, so that a rise is a worse rank). NaN where a side is absent. Noises are variances of
 * counting alone.
 */
export type MetricLogRatios = {
  readonly move: Float64Array;
  /** Level of the before span above the long level before it; NaN where the long level is not known. */
  readonly dip: Float64Array;
  /** Level of the last week of the before span above the whole of it; NaN where the span has no more than a week,
   *  or nothing is known of the time before it. */
  readonly preTrend: Float64Array;
  readonly noiseBefore: Float64Array;
  readonly noiseAfter: Float64Array;
  readonly noiseLong: Float64Array;
  readonly noisePreTrend: Float64Array;
  /**
   * Counting noise of a move at the row's usual level. By this rows are weighed: were they weighed by the spans
   * themselves, those that happened to rise would weigh more than those that happened to fall.
   */
  readonly noiseUsual: Float64Array;
};

export type LogRatios = Readonly<Record<Metric, MetricLogRatios>>;

/** The spans between which rows are compared, and the long level before them. */
export type EffectSpans = { readonly before: Span; readonly after: Span; readonly long: Span };

/**
 * The spans for a change on a day: before, after, and the sixteen weeks that end where before begins.
 * @example effectSpans(asDay(1000), 28, 7).before // days 972 to 999; after is 1007 to 1034, long 860 to 971
 */
export function effectSpans(day: Day, windowDays: number, settlingDays: number): EffectSpans {
  const { before, after } = changeSpans(day, windowDays, settlingDays);
  const long = {
    firstDay: (before.firstDay - LONG_DAYS) as Day,
    lastDay: (before.firstDay - 1) as Day,
  };
  return { before, after, long };
}

/** Room for the log ratios of so many rows. @example emptyLogRatios(3).clicks.move.length // 3 */
export function emptyLogRatios(rows: number): LogRatios {
  // One piece of memory for all: many small ones take longer to get than to fill.
  const memory = new Float64Array(rows * 8 * METRICS.length);
  let used = 0;
  const column = () => memory.subarray(used, (used += rows));
  return byMetric(() => ({
    move: column(),
    dip: column(),
    preTrend: column(),
    noiseBefore: column(),
    noiseAfter: column(),
    noiseLong: column(),
    noisePreTrend: column(),
    noiseUsual: column(),
  }));
}

/** The rows to compare: the first so many of a history, or those of a list; their moves stand in the same order. */
export type Selection = number | readonly number[];

/**
 * How rows of a history moved between two spans, and how far the before span stood above its past. Half a click and
 * half an impression are added to each sum, so that a row without any still has a logarithm (docs/method.md, 6).
 * `into` is written over where it is given.
 */
export function rowLogRatios(
  history: History,
  spans: EffectSpans,
  selection: Selection,
  into = emptyLogRatios(typeof selection === 'number' ? selection : selection.length),
): LogRatios {
  const look = lookUps(history, spans);
  const list = typeof selection === 'number' ? null : selection;
  const count = list ? list.length : (selection as number);
  countMoves(history.sums.clicks, into.clicks, look, list, count);
  countMoves(history.sums.impressions, into.impressions, look, list, count);
  clickRateMoves(into, count);
  positionMoves(history, into, look, list, count);
  return into;
}

/** The moves alone, without what the rows did before the before span: all that is asked of a shortened after span. */
export function bareLogRatios(history: History, spans: EffectSpans, count: number, into: LogRatios): void {
  const look = lookUps(history, spans);
  const { b0, b1, a0, a1 } = look;
  for (const metric of ['clicks', 'impressions'] as const) {
    const sum = history.sums[metric];
    const { move, noiseAfter } = into[metric];
    for (let i = 0; i < count; i++) {
      const after = sum[a1 + i]! - sum[a0 + i]! + 0.5;
      move[i] = Math.log(after / (sum[b1 + i]! - sum[b0 + i]! + 0.5));
      noiseAfter[i] = 1 / after;
    }
  }
  const { clicks, impressions, ctr, position } = into;
  const { positionSum: p, positionWeight: w } = history.sums;
  for (let i = 0; i < count; i++) {
    ctr.move[i] = clicks.move[i]! - impressions.move[i]!;
    ctr.noiseAfter[i] = Math.max(0, clicks.noiseAfter[i]! - impressions.noiseAfter[i]!);
    const weight = w[a1 + i]! - w[a0 + i]!;
    const before = (p[b1 + i]! - p[b0 + i]!) / (w[b1 + i]! - w[b0 + i]!);
    position.move[i] = Math.log((p[a1 + i]! - p[a0 + i]!) / weight / before);
    position.noiseAfter[i] = POSITION_NOISE / (weight + 0.5);
  }
}

/** Where the running sums of each span begin and end, and what days without figures make of their ratios. */
type LookUps = ReturnType<typeof lookUps>;

function lookUps(history: History, { before, after, long }: EffectSpans) {
  const at = (day: number) => history.offset(day) * history.rows;
  const week: Span = { firstDay: (before.lastDay - PRE_TREND_DAYS + 1) as Day, lastDay: before.lastDay };
  const [inBefore, inLong] = [history.covered(before), history.covered(long)];
  const inWeek = week.firstDay > before.firstDay ? history.covered(week) : 0;
  const inAll = history.covered({ firstDay: history.firstDay, lastDay: history.lastDay });
  const hasLong = inLong >= FEWEST_LONG_DAYS && inBefore > 0;
  // Without a longer past there is nothing to tell a preTrend from a whim.
  const hasWeek = hasLong && inWeek >= FEWEST_PRE_TREND_DAYS;
  return {
    b0: at(before.firstDay),
    b1: at(before.lastDay + 1),
    a0: at(after.firstDay),
    a1: at(after.lastDay + 1),
    l0: hasLong ? at(long.firstDay) : 0,
    l1: hasLong ? at(long.lastDay + 1) : 0,
    w0: at(week.firstDay),
    all: history.days * history.rows,
    hasLong,
    hasWeek,
    /** Added to a log ratio of sums to make it one of levels a day. */
    longPerDay: hasLong ? Math.log(inLong / inBefore) : NaN,
    weekPerDay: hasWeek ? Math.log(inBefore / inWeek) : NaN,
    beforeShare: hasLong ? inBefore / (inBefore + inLong) : 1,
    usualShare: inBefore / Math.max(1, inAll),
    preTrendNoise: hasWeek ? inBefore / inWeek - 1 : 0,
  };
}

function countMoves(
  sum: Float64Array,
  moves: MetricLogRatios,
  look: LookUps,
  list: readonly number[] | null,
  count: number,
): void {
  const { move, dip, preTrend, noiseBefore, noiseAfter, noiseLong, noisePreTrend, noiseUsual } = moves;
  const { b0, b1, a0, a1, l0, l1, w0, all, longPerDay, weekPerDay, beforeShare, usualShare, preTrendNoise } =
    look;
  for (let i = 0; i < count; i++) {
    const row = list ? list[i]! : i;
    const upTo = sum[b1 + row]!;
    const before = upTo - sum[b0 + row]! + 0.5;
    const after = sum[a1 + row]! - sum[a0 + row]! + 0.5;
    const long = sum[l1 + row]! - sum[l0 + row]! + 0.5;
    const logBefore = Math.log(before);
    move[i] = Math.log(after) - logBefore;
    dip[i] = logBefore - Math.log(long) + longPerDay;
    preTrend[i] = Math.log(upTo - sum[w0 + row]! + 0.5) - logBefore + weekPerDay;
    // By the level of both, since a page that just dipped has by chance fewer counts than it should.
    const noise = look.hasLong ? 1 / ((before + long) * beforeShare) : 1 / before;
    noiseBefore[i] = noise;
    noiseAfter[i] = 1 / after;
    noiseLong[i] = 1 / long;
    // The last week is a part of the before span, so that their counting noises go together.
    noisePreTrend[i] = noise * preTrendNoise;
    noiseUsual[i] = 2 / (sum[all + row]! * usualShare + 0.5);
  }
}

function clickRateMoves({ clicks, impressions, ctr }: LogRatios, count: number): void {
  for (let i = 0; i < count; i++) {
    // CTR is absent where a span had no impressions at all.
    const absent = impressions.noiseAfter[i] === 2 || impressions.noiseBefore[i] === 2;
    ctr.move[i] = absent ? NaN : clicks.move[i]! - impressions.move[i]!;
    ctr.dip[i] = clicks.dip[i]! - impressions.dip[i]!;
    ctr.preTrend[i] = clicks.preTrend[i]! - impressions.preTrend[i]!;
    ctr.noiseBefore[i] = Math.max(0, clicks.noiseBefore[i]! - impressions.noiseBefore[i]!);
    ctr.noiseAfter[i] = Math.max(0, clicks.noiseAfter[i]! - impressions.noiseAfter[i]!);
    ctr.noiseLong[i] = Math.max(0, clicks.noiseLong[i]! - impressions.noiseLong[i]!);
    ctr.noisePreTrend[i] = Math.max(0, clicks.noisePreTrend[i]! - impressions.noisePreTrend[i]!);
    ctr.noiseUsual[i] = Math.max(0, clicks.noiseUsual[i]! - impressions.noiseUsual[i]!);
  }
}

function positionMoves(
  { sums }: History,
  { position, impressions }: LogRatios,
  { b0, b1, a0, a1, l0, l1, w0, hasLong, hasWeek, preTrendNoise }: LookUps,
  list: readonly number[] | null,
  count: number,
): void {
  const { positionSum: p, positionWeight: w } = sums;
  for (let i = 0; i < count; i++) {
    const row = list ? list[i]! : i;
    const weightBefore = w[b1 + row]! - w[b0 + row]!;
    const weightAfter = w[a1 + row]! - w[a0 + row]!;
    const weightLong = w[l1 + row]! - w[l0 + row]!;
    // Without impressions 0 / 0 gives NaN, which is what absent is here.
    const before = Math.log((p[b1 + row]! - p[b0 + row]!) / weightBefore);
    position.move[i] = Math.log((p[a1 + row]! - p[a0 + row]!) / weightAfter) - before;
    position.dip[i] = hasLong ? before - Math.log((p[l1 + row]! - p[l0 + row]!) / weightLong) : NaN;
    position.preTrend[i] = hasWeek
      ? Math.log((p[b1 + row]! - p[w0 + row]!) / (w[b1 + row]! - w[w0 + row]!)) - before
      : NaN;
    const noise = POSITION_NOISE / (weightBefore + 0.5);
    position.noiseBefore[i] = noise;
    position.noiseAfter[i] = POSITION_NOISE / (weightAfter + 0.5);
    position.noiseLong[i] = POSITION_NOISE / (weightLong + 0.5);
    position.noisePreTrend[i] = noise * preTrendNoise;
    position.noiseUsual[i] = POSITION_NOISE * impressions.noiseUsual[i]!;
  }
}
