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
 * The pages that led for a query, the one that led on most days first. On a day the page that was seen most leads, of those seen alike the
 * one that stood higher. A run goes on over days on which no page was seen.
 * @example ledDays([{ pageId: 1, day, impressions: 9, position: 3 }, { pageId: 2, day, impressions: 2, position: 1 }]) // page 1 led 1 day
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
