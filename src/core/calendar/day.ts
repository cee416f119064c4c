/**
 * A calendar day as the whole number of days since 1 January 1970 (day 0).
 * It has no hour and no time zone, and is never a number of milliseconds.
 */
export type Day = number & { readonly __day: unique symbol };

const MS_A_DAY = 86_400_000;

/** A count of days since 1970-01-01 as a Day. Throws RangeError if it isn’t an integer. */
export function asDay(n: number): Day {
  if (!Number.isInteger(n)) throw new RangeError(`Not a whole number of days: ${n}`);
  return n as Day;
}

/**
 * Day of a proleptic Gregorian date (month 1 to 12); null if the date doesn’t exist (30 February).
 */
export function dayFromDate(year: number, month: number, dayOfMonth: number): Day | null {
  if (!Number.isInteger(year) || year < 1900 || year > 2200) return null;
  const date = new Date(Date.UTC(year, month - 1, dayOfMonth));
  const same = date.getUTCMonth() === month - 1 && date.getUTCDate() === dayOfMonth;
  return same ? asDay(date.getTime() / MS_A_DAY) : null;
}

/** Parses an ISO 8601 calendar date (`2026-09-14`); null if it isn’t one, or doesn’t exist. */
export function parseIsoDay(text: string): Day | null {
  const match = /^(\d{4})-(\d{2})-(\d{2})$/.exec(text);
  return match ? dayFromDate(Number(match[1]), Number(match[2]), Number(match[3])) : null;
}

/** Writes a day as an ISO 8601 calendar date. @example isoDay(asDay(0)) // "1970-01-01" */
export function isoDay(day: Day): string {
  return new Date(day * MS_A_DAY).toISOString().slice(0, 10);
}

/** The day `n` days later (earlier where n is negative). */
export function addDays(day: Day, n: number): Day {
  return asDay(day + n);
}

/** ISO weekday, 1 for Monday to 7 for Sunday. Day 0 was a Thursday. */
export function isoWeekday(day: Day): number {
  return ((((day + 3) % 7) + 7) % 7) + 1;
}

/** The Monday of the day's ISO week. */
export function mondayOf(day: Day): Day {
  return addDays(day, 1 - isoWeekday(day));
}

/**
 * The calendar day of an instant in milliseconds, in an IANA time zone or (null) the machine’s.
 * Throws RangeError for an unknown zone.
 *
 * @example isoDay(localDay(Date.UTC(2026, 11, 1, 23), 'Asia/Tokyo')) // "2026-12-02"
 */
export function localDay(instant: number, timeZone: string | null = null): Day {
  const date = new Date(instant);
  if (timeZone === null)
    return asDay(Date.UTC(date.getFullYear(), date.getMonth(), date.getDate()) / MS_A_DAY);
  const parts = new Intl.DateTimeFormat('en-u-ca-iso8601', {
    timeZone,
    year: 'numeric',
    month: 'numeric',
    day: 'numeric',
  }).formatToParts(date);
  const part = (type: string) => Number(parts.find((one) => one.type === type)!.value);
  return asDay(Date.UTC(part('year'), part('month') - 1, part('day')) / MS_A_DAY);
}
