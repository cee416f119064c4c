import { asDay, type Day } from '../calendar/day';

/** Of how many days, weeks and months a backup is kept: the newest of each. */
export type Retention = { readonly days: number; readonly weeks: number; readonly months: number };
export const USUAL_RETENTION: Retention = { days: 7, weeks: 4, months: 12 };

/**
 * The days whose backups are kept: the newest of each of the last days, weeks (from Monday on) and months of which there is one. Days without a
 * backup take none away. The newest of all is always kept.
 * @example keptBackups(thirtyDaysInARow, { days: 7, weeks: 4, months: 12 }).size // 10 or so: seven days, and the ends of weeks and months before
 */
export function keptBackups(days: readonly Day[], { days: daily, weeks, months }: Retention): Set<Day> {
  const newestFirst = [...new Set(days)].sort((a, b) => b - a);
  const newestOf = (period: (day: Day) => number | string, most: number): Day[] => {
    const seen = new Map<number | string, Day>();
    for (const day of newestFirst) if (!seen.has(period(day))) seen.set(period(day), day);
    return [...seen.values()].slice(0, most);
  };
  return new Set([
    ...newestFirst.slice(0, 1),
    ...newestOf((day) => day, daily),
    ...newestOf(weekOf, weeks),
    ...newestOf(monthOf, months),
  ]);
}

/** Weeks begin on Monday; day 0 was a Thursday. */
const weekOf = (day: Day) => Math.floor((day + 3) / 7);
const monthOf = (day: Day) => new Date(day * 86_400_000).toISOString().slice(0, 7);

/** After so many days without a backup somebody should know. */
const MOST_DAYS_WITHOUT = 2;

/** For how many days there was no backup, where that is too long; null where it is not. `since` is when the data began. */
export function daysWithoutBackup(newest: Day | null, since: Day, today: Day): number | null {
  const days = today - (newest ?? since);
  return days > MOST_DAYS_WITHOUT ? days : null;
}

/** The day of an instant (ISO 8601). */
export const dayOfInstant = (instant: string): Day => asDay(Math.floor(Date.parse(instant) / 86_400_000));
