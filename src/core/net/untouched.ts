import type { Day } from '../calendar/day';
import type { History } from '../history/history';
import type { Touched } from '../history/touched';
import { METRICS, type Metric } from '../model/change';
import { LONG_DAYS, moveSpans, rowMoves, type MetricMoves, type Moves } from './moves';
import { poolMoves } from './yardstick';

/** Whether a row may stand in a yardstick: not at all, over all days of the spans, or only until it was changed. */
export const UNFIT = 0;
export const FIT = 1;
export const FIT_UNTIL_CHANGED = 2;

/** The moves of all rows between the spans of a day, and which rows are untouched. */
export type Column = { readonly moves: Moves; readonly fit: Uint8Array };

/** Variance of a page's move beyond counting, roughly; it only sets weights here. */
const USUAL_SPREAD = 0.03;

/**
 * Compares every row between the spans of a day and finds the untouched ones: those without a logged change from the
 * start of the long level to the end of the after span.
 *
 * A page that was changed late in the after span is not simply left out. People change pages that have just fallen,
 * so leaving them out would leave a yardstick of those that did not fall. Such a page is followed for as many whole
 * weeks as it was untouched, and from there goes on as the other pages did.
 */
export function compareRows(
  history: History,
  touched: Touched,
  day: Day,
  windowDays: number,
  settlingDays: number,
): Column {
  const spans = moveSpans(day, windowDays, settlingDays);
  const moves = rowMoves(history, spans);
  const fit = new Uint8Array(history.rows);
  const followed = new Map<number, number[]>();
  const { firstDay, lastDay } = spans.after;
  for (let row = 0; row < fit.length; row++) {
    const next = touched.firstFrom(row, day - windowDays - LONG_DAYS);
    if (next === null || next > lastDay) fit[row] = FIT;
    else {
      const weeks = Math.floor((next - firstDay) / 7);
      if (weeks >= 1) followed.set(weeks, [...(followed.get(weeks) ?? []), row]);
    }
  }
  for (const [weeks, rows] of followed) {
    const after = { firstDay, lastDay: (firstDay + 7 * weeks - 1) as Day };
    goOnAsOthers(moves, rowMoves(history, { ...spans, after }), fit, rows, windowDays / (7 * weeks));
  }
  for (const rows of followed.values()) for (const row of rows) fit[row] = FIT_UNTIL_CHANGED;
  return { moves, fit };
}

/** Sets the moves of `rows` to what they did over the shorter after span, and from there on as the untouched did. */
function goOnAsOthers(moves: Moves, short: Moves, fit: Uint8Array, rows: number[], stretch: number): void {
  const oneGroup = new Uint8Array(fit.length);
  const pooled = (of: MetricMoves) => poolMoves(of, fit, oneGroup, 1, USUAL_SPREAD).site.move;
  for (const metric of METRICS as readonly Metric[]) {
    const whole = moves[metric];
    const rest = pooled(whole) - pooled(short[metric]);
    for (const row of rows) {
      whole.move[row] = short[metric].move[row]! + rest;
      whole.noiseAfter[row] = short[metric].noiseAfter[row]!;
      whole.noiseUsual[row]! *= (1 + stretch) / 2;
    }
  }
}
