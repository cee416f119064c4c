import { localDay, parseIsoDay, type Day } from '../core/calendar/day';

/** Today. TALLY_TODAY (YYYY-MM-DD) sets a fixed day, for the demo, tests and pictures. */
export function today(): Day {
  const fixed = process.env.TALLY_TODAY;
  return (fixed ? parseIsoDay(fixed) : null) ?? localDay(Date.now());
}
