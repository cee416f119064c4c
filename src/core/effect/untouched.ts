/* Untouched pages: which rows may serve as control at a day, and how far. */

import type { Day } from '../calendar/day';
import {
  bareLogRatios,
  emptyLogRatios,
  LONG_DAYS,
  effectSpans,
  rowLogRatios,
  type MetricLogRatios,
  type LogRatios,
} from './logRatios';
import { COMPONENTS } from './components';
import type { Moment, Rows } from './rows';
import { poolMoves } from './yardstick';

/** Whether a row may stand in a yardstick: not at all, over all days of the spans, or only until it was changed. */
export const UNFIT = 0;
export const FIT = 1;
export const FIT_UNTIL_CHANGED = 2;

/** The moves of the first rows of a history between the spans of a day, and which of them are untouched. */
export type Column = { readonly moves: LogRatios; readonly fit: Uint8Array };

/** Room that is written over from one day to the next, where only the pooled moves are kept. */
export type Room = { readonly moves: LogRatios; readonly short: LogRatios };

export function makeRoom(rows: number): Room {
  return { moves: emptyLogRatios(rows), short: emptyLogRatios(rows) };
}

/** Variance of a page's move beyond counting, roughly; it only sets weights here. */
const USUAL_SPREAD = 0.03;

/**
 * Compares the first `count` rows between the spans of a day and finds the untouched ones: those without a logged
 * change from the start of the long level to the end of the after span.
 *
 * A page that was changed late in the after span is not simply left out. People change pages that have just fallen,
 * so leaving them out would leave a yardstick of those that did not fall. Such a page is followed for the first half
 * of the span, or its first week, where it was untouched as long, and from there goes on as the other pages did.
 * With `keep` the log ratios stay as they are; otherwise they stand in `room`, which the next call writes over.
 */
export function untouchedRatios(
  { history, touched }: Pick<Rows, 'history' | 'touched'>,
  { day, windowDays, settlingDays }: Moment,
  count: number,
  room: Room,
  keep: boolean,
): Column {
  const spans = effectSpans(day, windowDays, settlingDays);
  const moves = rowLogRatios(history, spans, count, keep ? undefined : room.moves);
  const fit = new Uint8Array(count);
  const { firstDay, lastDay } = spans.after;
  const lengths = followedDays(windowDays, count);
  const followed = lengths.map((): number[] => []);
  for (let row = 0; row < count; row++) {
    const next = touched.firstFrom(row, day - windowDays - LONG_DAYS);
    if (next === null || next > lastDay) fit[row] = FIT;
    else followed[lengths.findIndex((days) => next >= firstDay + days)]?.push(row);
  }
  followed.forEach((rows, i) => {
    if (rows.length === 0) return;
    const days = lengths[i]!;
    const after = { firstDay, lastDay: (firstDay + days - 1) as Day };
    bareLogRatios(history, { ...spans, after }, count, room.short);
    goOnAsOthers(moves, room.short, fit, rows, windowDays / days);
  });
  for (const rows of followed) for (const row of rows) fit[row] = FIT_UNTIL_CHANGED;
  return { moves, fit };
}

/** With more pages than this the few that were changed in the first half do not matter. */
const FEW_PAGES = 150;

/** Days for which pages that were changed later are followed, the longest first: whole weeks. */
function followedDays(windowDays: number, pages: number): number[] {
  const half = Math.floor(windowDays / 14) * 7;
  if (half === 0) return [];
  return half > 7 && pages <= FEW_PAGES ? [half, 7] : [half];
}

/** Sets the moves of `rows` to what they did over the shorter after span, and from there on as the untouched did. */
function goOnAsOthers(
  moves: LogRatios,
  short: LogRatios,
  fit: Uint8Array,
  rows: number[],
  stretch: number,
): void {
  for (const name of COMPONENTS) {
    const [whole, part] = [moves[name], short[name]];
    const rest = meanMove(whole, whole, fit) - meanMove(part, whole, fit);
    for (const row of rows) {
      whole.move[row] = part.move[row]! + rest;
      whole.noiseAfter[row] = part.noiseAfter[row]!;
      whole.noiseUsual[row]! *= (1 + stretch) / 2;
    }
  }
}

/** The pooled move of the untouched rows, with the weights of `weigh`. */
function meanMove(moves: MetricLogRatios, weigh: MetricLogRatios, fit: Uint8Array): number {
  const of = { ...weigh, move: moves.move };
  return poolMoves(of, fit, new Uint8Array(fit.length), 1, USUAL_SPREAD).site.move;
}
