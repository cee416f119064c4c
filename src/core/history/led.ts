/* Which of several pages led for a query, day by day. */

import type { Day } from '../calendar/day';
import type { Span } from '../calendar/span';

/** What a page was shown for a query on a day; an absent position is null. */
export type ShownOnDay = {
  readonly pageId: number;
  readonly day: Day;
  readonly impressions: number;
  readonly position: number | null;
};

/** A page, the days on which it led, and those days as runs. */
export type Led = { readonly pageId: number; readonly days: number; readonly runs: readonly Span[] };

/**
 * Pages that led for a query, most days first. The page with the most impressions leads a day; ties
 * go to the better position. A run continues over days without impressions.
 *
 * @example ledDays([{ pageId: 1, day, impressions: 9, position: 3 }]) // page 1 led 1 day
 */
export function ledDays(rows: readonly ShownOnDay[]): Led[] {
  const best = new Map<Day, ShownOnDay>();
  for (const row of rows) {
    const known = best.get(row.day);
    if (row.impressions > 0 && (!known || leads(row, known))) best.set(row.day, row);
  }
  const led = new Map<number, { pageId: number; days: number; runs: Span[] }>();
  let before: number | null = null;
  for (const [day, { pageId }] of [...best].sort(([a], [b]) => a - b)) {
    const one = led.get(pageId) ?? { pageId, days: 0, runs: [] };
    led.set(pageId, one);
    one.days += 1;
    const run = before === pageId ? one.runs.pop()! : { firstDay: day };
    one.runs.push({ firstDay: run.firstDay, lastDay: day });
    before = pageId;
  }
  return [...led.values()].sort((a, b) => b.days - a.days || a.pageId - b.pageId);
}

function leads(a: ShownOnDay, b: ShownOnDay): boolean {
  if (a.impressions !== b.impressions) return a.impressions > b.impressions;
  return (a.position ?? Infinity) < (b.position ?? Infinity);
}
