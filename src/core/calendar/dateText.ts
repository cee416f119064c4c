/* Days as people write them, by date-fns. */

import { UTCDate } from '@date-fns/utc';
import { format, isValid, parse, startOfMonth, subYears } from 'date-fns';
import { enGB } from 'date-fns/locale/en-GB';
import { asDay, parseIsoDay, type Day } from './day';
import type { Span } from './span';

const MS_A_DAY = 86_400_000;

/** Midnight UTC at the beginning of a day, for libraries that work with dates. */
export function utcDate(day: Day): UTCDate {
  return new UTCDate(day * MS_A_DAY);
}

/** The day of a date in UTC. Inverse of `utcDate`. */
export function dayOfUtcDate(date: Date): Day {
  return asDay(Math.floor(date.getTime() / MS_A_DAY));
}

/**
 * A day in a date-fns pattern.
 *
 * @example formatDay(asDay(0), 'd MMM yyyy') // "1 Jan 1970"
 */
export function formatDay(day: Day, pattern: string): string {
  return format(utcDate(day), pattern, { locale: enGB });
}

/** Day before month, as everywhere in the product. */
const TYPED = [
  'd MMM yyyy',
  'd MMMM yyyy',
  'd.M.yyyy',
  'd/M/yyyy',
  'd-M-yyyy',
  'MMM d, yyyy',
  'MMMM d, yyyy',
];

/**
 * Reads a day as somebody types it: `2026-11-24`, `24 Nov 2026`, `24/11/2026`, `24 Nov` (of this
 * year), `today` or `yesterday`; null if the text is none of these or no such day exists.
 */
export function parseTypedDay(text: string, today: Day): Day | null {
  const typed = text.trim().replace(/\s+/g, ' ').toLowerCase();
  if (typed === 'today') return today;
  if (typed === 'yesterday') return asDay(today - 1);
  const iso = parseIsoDay(typed);
  if (iso !== null) return iso;
  const withYear = /\d{4}/.test(typed) ? typed : `${typed} ${formatDay(today, 'yyyy')}`;
  for (const pattern of TYPED) {
    const date = parse(withYear, pattern, new UTCDate(0), { locale: enGB });
    // Two digits would be a year of the first century.
    if (isValid(date) && date.getFullYear() >= 1900) return dayOfUtcDate(date);
  }
  return null;
}

/** A range that is offered by name; `newest` is the last day that figures reach. */
export type NamedRange = {
  readonly label: string;
  readonly of: (newest: Day, chosen: Span | null) => Span | null;
};

const last = (days: number): NamedRange => ({
  label: `Last ${days} days`,
  of: (newest) => ({ firstDay: asDay(newest - days + 1), lastDay: newest }),
});

/** The ranges that every choice of days offers. */
export const NAMED_RANGES: readonly NamedRange[] = [
  last(7),
  last(28),
  last(90),
  {
    label: 'This month',
    of: (newest) => ({ firstDay: dayOfUtcDate(startOfMonth(utcDate(newest))), lastDay: newest }),
  },
  {
    label: 'A year earlier',
    of: (_, chosen) =>
      chosen && {
        firstDay: dayOfUtcDate(subYears(utcDate(chosen.firstDay), 1)),
        lastDay: dayOfUtcDate(subYears(utcDate(chosen.lastDay), 1)),
      },
  },
];
