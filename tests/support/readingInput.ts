import { asDay, type Day } from '@/core/calendar/day';
import type { Change } from '@/core/model/change';
import type { OutsideEvent } from '@/core/model/event';
import type { PageDay, ReadingInput } from '@/core/reading/input';

/** The day of the change that the tests of readings are about. */
export const DAY = asDay(20_700);

/** A logged change on one page. */
export function change(over: Partial<Change> = {}): Change {
  return {
    ...{ id: 1, siteId: 1, title: 'Shorter title', kind: 'title-rewrite', day: DAY, queries: [] },
    pages: [{ id: 10, address: 'https://www.quillow-bees.example/guides/' }],
    ...{ oldText: null, newText: null, settlingDays: null, windowDays: null, expectation: null },
    ...{ person: null, link: null, note: null },
    ...over,
  };
}

/** An algorithm update over these days. */
export function event(firstDay: number, lastDay: number, over: Partial<OutsideEvent> = {}): OutsideEvent {
  const span = { firstDay: asDay(firstDay), lastDay: asDay(lastDay) };
  return {
    id: 5,
    siteId: 1,
    name: 'Clover update',
    kind: 'algorithm-update',
    link: null,
    note: null,
    ...span,
    ...over,
  };
}

/** A page's figures of one day. */
export const figures = (
  day: number,
  clicks: number,
  impressions: number,
  position: number | null = 5,
): PageDay => ({
  day: asDay(day),
  clicks,
  impressions,
  positionSum: position === null ? null : position * impressions,
  fromQueries: false,
});

/** All days from the first to the last. */
export function daysOf(first: number, last: number): Set<Day> {
  return new Set(Array.from({ length: last - first + 1 }, (_, i) => asDay(first + i)));
}

/** Sixty days on both sides of the change, ten clicks of two hundred impressions each. */
export function input(over: Partial<ReadingInput> = {}): ReadingInput {
  const pageDays = [...daysOf(DAY - 60, DAY + 60)].map((day) => figures(day, 10, 200));
  return {
    change: change(),
    ...{ windowDays: 28, settlingDays: 3, provisionalDays: 3, lastReadable: asDay(DAY + 60) },
    today: asDay(DAY + 65),
    daysWithFigures: daysOf(DAY - 60, DAY + 60),
    daysWithQueries: daysOf(DAY - 60, DAY + 60),
    pageDays,
    ...{ queryDays: [], otherChanges: [], events: [] },
    ...over,
  };
}
