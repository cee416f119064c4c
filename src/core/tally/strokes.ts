import { mondayOf, type Day } from '../calendar/day';

/** One tally mark on a time axis. A `crossing` stroke is drawn over the four before it instead of beside them. */
export type Stroke<T> = { readonly item: T; readonly day: Day; readonly crossing: boolean };

/**
 * Turns dated items into tally strokes in the order of their days: within one ISO week each fifth item crosses
 * the four before it.
 */
export function tallyStrokes<T extends { readonly day: Day }>(items: readonly T[]): Stroke<T>[] {
  const inWeek = new Map<Day, number>();
  return [...items]
    .sort((a, b) => a.day - b.day)
    .map((item) => {
      const monday = mondayOf(item.day);
      const n = (inWeek.get(monday) ?? 0) + 1;
      inWeek.set(monday, n);
      return { item, day: item.day, crossing: n % 5 === 0 };
    });
}
