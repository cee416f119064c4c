import { asDay, type Day } from '@/core/calendar/day';
import type { Change } from '@/core/model/change';
import { plainValuesOf } from '@/core/model/changeFields';
import { History, type Series } from '@/core/history/history';
import type { ChangedPages } from '@/core/history/changeIndex';
import { Accumulator } from '@/core/measures/accumulator';
import type { OutsideEvent } from '@/core/model/event';
import { EffectEngine } from '@/core/effect/engine';
import { type PageDay, type ReadingInput } from '@/core/reading/input';
import { NOT_NARROWED } from '@/core/reading/narrowing';

/** The day of the change that the tests of readings are about. */
export const DAY = asDay(20_700);

/** A logged change on one page. */
export function change(over: Partial<Change> = {}): Change {
  return {
    ...plainValuesOf({ title: 'Shorter title', kind: 'title-rewrite' }),
    ...{ id: 1, siteId: 1, day: DAY, queries: [], expectation: null, steps: {}, decision: null },
    pages: [{ id: 10, address: 'https://www.quillow-bees.example/guides/' }],
    written: ['https://www.quillow-bees.example/guides/'],
    ...{ parts: [], tags: [] },
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
    group: null,
    hidden: false,
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
  ...new Accumulator().add(clicks, impressions, position === null ? NaN : position * impressions),
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
    ...{ queryDays: [], wrongTwins: [], otherChanges: [], events: [], narrowed: NOT_NARROWED },
    ...{ engine: null, rows: [10], sharesIn: () => [], detail: null },
    ...over,
  };
}

/** What a page's day brings, by its day. */
export type DayOf = (day: number) => { clicks: number; impressions: number; position: number };

/** A series of a page from the first day to the last. */
export function seriesOf(id: number, first: number, last: number, of: DayOf): Series {
  const days = Array.from({ length: last - first + 1 }, (_, i) => of(first + i));
  return {
    id,
    firstDay: asDay(first),
    clicks: days.map((d) => d.clicks),
    impressions: days.map((d) => d.impressions),
    positionSum: days.map((d) => d.position * d.impressions),
    positionWeight: days.map((d) => d.impressions),
  };
}

/** The days of a made-up site in tests of net effects: more than a year before the change and some weeks after it. */
export const SITE_FIRST = DAY - 400;
export const SITE_LAST = DAY + 60;

/** The engine of a site with these pages, their ids counted from 10, all in one group. */
export function readerOf(pages: readonly DayOf[], changes: readonly ChangedPages[] = []): EffectEngine {
  const series = pages.map((of, i) => seriesOf(10 + i, SITE_FIRST, SITE_LAST, of));
  const history = new History(
    asDay(SITE_FIRST),
    SITE_LAST - SITE_FIRST + 1,
    series,
    daysOf(SITE_FIRST, SITE_LAST),
  );
  return new EffectEngine(history, { of: pages.map(() => 0), count: 1 }, changes, asDay(SITE_LAST));
}

/** The input of a reading of the first page of a site. */
export function siteInput(pages: readonly DayOf[], over: Partial<ReadingInput> = {}): ReadingInput {
  const own = pages[0]!;
  return input({
    engine: readerOf(pages, [{ day: DAY, pages: [{ id: 10 }] }]),
    pageDays: [...daysOf(DAY - 60, DAY + 60)].map((day) => {
      const { clicks, impressions, position } = own(day);
      return figures(day, clicks, impressions, position);
    }),
    ...over,
  });
}
