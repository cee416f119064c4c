import { localDay, parseIsoDay, type Day } from '../core/calendar/day';

/**
 * Today in an IANA time zone (null: the server’s). TALLY_TODAY (YYYY-MM-DD) sets a fixed day, for
 * the demo, tests and pictures.
 */
export function today(timeZone: string | null = null): Day {
  const fixed = process.env.TALLY_TODAY;
  return (fixed ? parseIsoDay(fixed) : null) ?? localDay(Date.now(), timeZone);
}
