import type { Day } from '../calendar/day';
import { changeSpans, type Span } from '../calendar/span';
import type { History } from '../history/history';
import type { Metric } from '../model/change';

/** Days of the long level before the before span (method, part 3), and the fewest of them that say anything. */
export const LONG_DAYS = 112;
const FEWEST_LONG_DAYS = 28;
/** Days at the end of the before span that show where a page was heading. */
const LEAN_DAYS = 7;

/** Counting noise of a position's logarithm for each impression; the swing takes up what this leaves. */
const POSITION_NOISE = 0.4;

/**
 * How one metric of every row moved between two spans, on the log scale (log of the ratio after / before; for
 * position of the ratio of positions, so that a rise is a worse rank). NaN where a side is absent.
 */
export type MetricMoves = {
  readonly move: Float64Array;
  /** Level of the before span above the long level before it; NaN where the long level is not known. */
  readonly dip: Float64Array;
  /** Level of the last week of the before span above the whole of it; NaN where the span has no more than a week. */
  readonly lean: Float64Array;
  readonly noiseLean: Float64Array;
  /** Variance of counting alone: of the before span, the after span, and the long level. */
  readonly noiseBefore: Float64Array;
  readonly noiseAfter: Float64Array;
  readonly noiseLong: Float64Array;
  /**
   * Counting noise of a move at the row's usual level. By this rows are weighed: were they weighed by the spans
   * themselves, those that happened to rise would weigh more than those that happened to fall.
   */
  readonly noiseUsual: Float64Array;
};

export type Moves = Readonly<Record<Metric, MetricMoves>>;

/** The spans between which rows are compared. `long` may be shortened or absent. */
export type MoveSpans = { readonly before: Span; readonly after: Span; readonly long: Span | null };

/** The spans for a change on a day: before, after, and the long level, the sixteen weeks that end where before begins. */
export function moveSpans(day: Day, windowDays: number, settlingDays: number): MoveSpans {
  const { before, after } = changeSpans(day, windowDays, settlingDays);
  return { before, after, long: longSpan(before) };
}

/** The long level before a before span. */
export function longSpan(before: Span): Span {
  return { firstDay: (before.firstDay - LONG_DAYS) as Day, lastDay: (before.firstDay - 1) as Day };
}

function emptyMoves(rows: number): MetricMoves {
  const column = () => new Float64Array(rows);
  return {
    move: column(),
    dip: column(),
    lean: column(),
    noiseLean: column(),
    noiseBefore: column(),
    noiseAfter: column(),
    noiseLong: column(),
    noiseUsual: column(),
  };
}

/**
 * How every row of a history moved between two spans, and how far its before span stood above its long level. Half a
 * click and half an impression are added to each sum, so that a row without any still has a logarithm (method, part 3).
 */
export function rowMoves(history: History, spans: MoveSpans): Moves {
  const { rows, sums } = history;
  const at = (day: number) => history.offset(day) * rows;
  const [b0, b1] = [at(spans.before.firstDay), at(spans.before.lastDay + 1)];
  const coveredBefore = history.covered(spans.before);
  const lastWeek: Span = { firstDay: (spans.before.lastDay - LEAN_DAYS + 1) as Day, lastDay: spans.before.lastDay };
  const w0 = at(lastWeek.firstDay);
  const coveredWeek = lastWeek.firstDay > spans.before.firstDay ? history.covered(lastWeek) : 0;
  const perWeekDay = coveredWeek >= LEAN_DAYS - 2 ? Math.log(coveredBefore / coveredWeek) : NaN;
  const [a0, a1] = [at(spans.after.firstDay), at(spans.after.lastDay + 1)];
  const coveredLong = spans.long ? history.covered(spans.long) : 0;
  const known = coveredLong >= FEWEST_LONG_DAYS && coveredBefore > 0;
  const [l0, l1] = known && spans.long ? [at(spans.long.firstDay), at(spans.long.lastDay + 1)] : [0, 0];
  const shareBefore = coveredBefore / (coveredBefore + coveredLong);
  const perDay = known ? Math.log(coveredLong / coveredBefore) : NaN;
  const leanNoise = coveredWeek > 0 ? coveredBefore / coveredWeek - 1 : 0;
  const whole = history.days * rows;
  const usualShare = coveredBefore / Math.max(1, history.covered({ firstDay: history.firstDay, lastDay: history.lastDay }));
  const moves: Moves = {
    clicks: emptyMoves(rows),
    impressions: emptyMoves(rows),
    ctr: emptyMoves(rows),
    position: emptyMoves(rows),
  };

  const counts = (metric: 'clicks' | 'impressions') => {
    const { move, dip, lean, noiseLean, noiseBefore, noiseAfter, noiseLong, noiseUsual } = moves[metric];
    const sum = sums[metric];
    for (let row = 0; row < rows; row++) {
      const before = sum[b1 + row]! - sum[b0 + row]! + 0.5;
      const after = sum[a1 + row]! - sum[a0 + row]! + 0.5;
      const long = sum[l1 + row]! - sum[l0 + row]! + 0.5;
      const week = sum[b1 + row]! - sum[w0 + row]! + 0.5;
      const logBefore = Math.log(before);
      lean[row] = Math.log(week) - logBefore + perWeekDay;
      move[row] = Math.log(after) - logBefore;
      dip[row] = logBefore - Math.log(long) + perDay;
      noiseBefore[row] = known ? 1 / ((before + long) * shareBefore) : 1 / before;
      // The last week is a part of the before span, so that their counting noises go together.
      noiseLean[row] = noiseBefore[row]! * leanNoise;
      noiseAfter[row] = 1 / after;
      noiseLong[row] = 1 / long;
      noiseUsual[row] = 2 / (sum[whole + row]! * usualShare + 0.5);
    }
  };
  counts('clicks');
  counts('impressions');
  const { clicks, impressions, ctr, position } = moves;
  const rest = (of: number, all: number) => Math.max(0, of - all);
  for (let row = 0; row < rows; row++) {
    ctr.move[row] = clicks.move[row]! - impressions.move[row]!;
    ctr.lean[row] = clicks.lean[row]! - impressions.lean[row]!;
    ctr.noiseLean[row] = rest(clicks.noiseLean[row]!, impressions.noiseLean[row]!);
    ctr.dip[row] = clicks.dip[row]! - impressions.dip[row]!;
    ctr.noiseBefore[row] = rest(clicks.noiseBefore[row]!, impressions.noiseBefore[row]!);
    ctr.noiseAfter[row] = rest(clicks.noiseAfter[row]!, impressions.noiseAfter[row]!);
    ctr.noiseLong[row] = rest(clicks.noiseLong[row]!, impressions.noiseLong[row]!);
    ctr.noiseUsual[row] = rest(clicks.noiseUsual[row]!, impressions.noiseUsual[row]!);
    // CTR is absent where a span had no impressions at all.
    if (impressions.noiseBefore[row]! > 1.99 || impressions.noiseAfter[row]! > 1.99) ctr.move[row] = NaN;
  }
  const { positionSum, positionWeight } = sums;
  for (let row = 0; row < rows; row++) {
    const weightBefore = positionWeight[b1 + row]! - positionWeight[b0 + row]!;
    const weightAfter = positionWeight[a1 + row]! - positionWeight[a0 + row]!;
    const weightLong = positionWeight[l1 + row]! - positionWeight[l0 + row]!;
    const before = Math.log((positionSum[b1 + row]! - positionSum[b0 + row]!) / weightBefore);
    const after = Math.log((positionSum[a1 + row]! - positionSum[a0 + row]!) / weightAfter);
    const weekSum = positionSum[b1 + row]! - positionSum[w0 + row]!;
    const weekWeight = positionWeight[b1 + row]! - positionWeight[w0 + row]!;
    // Without impressions 0 / 0 gives NaN, which is what absent is here.
    position.move[row] = after - before;
    position.dip[row] = before - Math.log((positionSum[l1 + row]! - positionSum[l0 + row]!) / weightLong);
    position.lean[row] = perWeekDay === perWeekDay ? Math.log(weekSum / weekWeight) - before : NaN;
    position.noiseLean[row] = (POSITION_NOISE / (weightBefore + 0.5)) * leanNoise;
    position.noiseBefore[row] = POSITION_NOISE / (weightBefore + 0.5);
    position.noiseAfter[row] = POSITION_NOISE / (weightAfter + 0.5);
    position.noiseLong[row] = POSITION_NOISE / (weightLong + 0.5);
    position.noiseUsual[row] = POSITION_NOISE * impressions.noiseUsual[row]!;
  }
  return moves;
}
