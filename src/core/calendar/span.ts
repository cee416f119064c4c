import { addDays, parseIsoDay, type Day } from './day';

/** Consecutive days, both ends included. */
export type Span = { readonly firstDay: Day; readonly lastDay: Day };

/**
 * The two spans of a reading, equally long, `settlingDays` skipped between change and second span.
 */
export type ChangeSpans = { before: Span; after: Span; windowDays: number; settlingDays: number };

/** Number of days in a span; 0 or less for an empty one. */
export function spanLength(span: Span): number {
  return span.lastDay - span.firstDay + 1;
}

/** Whether a day lies in a span. */
export function inSpan(day: Day, span: Span): boolean {
  return day >= span.firstDay && day <= span.lastDay;
}

/** The days two spans share, or null where they share none. */
export function overlap(a: Span, b: Span): Span | null {
  const firstDay = a.firstDay > b.firstDay ? a.firstDay : b.firstDay;
  const lastDay = a.lastDay < b.lastDay ? a.lastDay : b.lastDay;
  return firstDay <= lastDay ? { firstDay, lastDay } : null;
}

/**
 * The spans compared for a change on `day`, with n days each and s settling days: before = [day −
 * n, day − 1], after = [day + s, day + s + n − 1]. With s = 0 the day itself is in the after span.
 * Throws RangeError unless n is positive and s non-negative, both integers.
 */
export function changeSpans(day: Day, windowDays: number, settlingDays: number): ChangeSpans {
  if (!Number.isInteger(windowDays) || windowDays < 1) throw new RangeError('windowDays must be 1 or more');
  if (!Number.isInteger(settlingDays) || settlingDays < 0)
    throw new RangeError('settlingDays must be 0 or more');
  return {
    before: { firstDay: addDays(day, -windowDays), lastDay: addDays(day, -1) },
    after: { firstDay: addDays(day, settlingDays), lastDay: addDays(day, settlingDays + windowDays - 1) },
    windowDays,
    settlingDays,
  };
}

/**
 * The spans cut to the whole weeks of the after span that end by `lastReadable`, equally many on
 * both sides, so that each weekday counts equally. Null before the first week is over.
 */
export function interimSpans(spans: ChangeSpans, lastReadable: Day): { before: Span; after: Span } | null {
  const readable = Math.min(lastReadable, spans.after.lastDay) - spans.after.firstDay + 1;
  const days = Math.floor(readable / 7) * 7;
  if (days < 7) return null;
  return {
    before: { firstDay: addDays(spans.before.lastDay, 1 - days), lastDay: spans.before.lastDay },
    after: { firstDay: spans.after.firstDay, lastDay: addDays(spans.after.firstDay, days - 1) },
  };
}

/** The last `days` days up to one, and as many before them. */
export function lastSpans(lastDay: Day, days: number): { before: Span; after: Span } {
  const firstDay = addDays(lastDay, 1 - days);
  return {
    before: { firstDay: addDays(firstDay, -days), lastDay: addDays(firstDay, -1) },
    after: { firstDay, lastDay },
  };
}

/** No span is longer than a year and a day. */
export const MOST_SPAN_DAYS = 366;

/**
 * Parses a span written as two days with two dots between; null if it isn’t one or ends before it
 * begins.
 *
 * @example parseSpan('2026-08-01..2026-08-28') // 28 days
 */
export function parseSpan(text: string): Span | null {
  const [first, last, ...rest] = text.split('..');
  if (first === undefined || last === undefined || rest.length > 0) return null;
  const [firstDay, lastDay] = [parseIsoDay(first), parseIsoDay(last)];
  return firstDay === null || lastDay === null || lastDay < firstDay ? null : { firstDay, lastDay };
}
