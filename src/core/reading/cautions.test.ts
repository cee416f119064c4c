import { asDay } from '../calendar/day';
import {
  change,
  DAY,
  daysOf,
  event,
  figures,
  input,
  readerOf,
  siteInput,
  type DayOf,
} from '../../../tests/support/readingInput';
import type { PageDay, ReadingInput } from './input';
import { makeReading } from './reading';

const codes = (over: Partial<ReadingInput>) => makeReading(input(over)).cautions.map((c) => c.code);

test('an undisturbed reading has none', () => {
  expect(codes({})).toEqual([]);
});

test.each([
  ['ends on the first before day', -40, -28, true],
  ['ends the day before', -40, -29, false],
  ['in the settling days', 0, 2, true],
  ['begins on the last after day', 30, 50, true],
  ['begins the day after', 31, 50, false],
  ['covers everything', -90, 90, true],
])('an update that %s', (_name, first, last, wanted) => {
  expect(codes({ events: [event(DAY + first, DAY + last)] })).toEqual(wanted ? ['update-in-span'] : []);
});

test('an update says on how many days of which span it fell, and where it stands', () => {
  const [caution] = makeReading(input({ events: [event(DAY - 2, DAY + 10)] })).cautions;
  expect(caution?.message).toMatch(/2 of the 28 before days and 8 of the 28 after days/);
  expect(caution).toMatchObject({ eventId: 5, days: { firstDay: DAY - 2, lastDay: DAY + 10 } });
});

test('other outside events have a code of their own', () => {
  expect(codes({ events: [event(DAY, DAY, { kind: 'outage' })] })).toEqual(['event-in-span']);
});

test('another change counts if it shares a page and lies in the spans', () => {
  const other = (day: number, page = 10) =>
    change({ id: 2, day: asDay(day), pages: [{ id: page, address: 'x' }] });
  expect(codes({ otherChanges: [other(DAY)] })).toEqual(['other-change-in-span']);
  expect(codes({ otherChanges: [other(DAY - 28)] })).toEqual(['other-change-in-span']);
  expect(codes({ otherChanges: [other(DAY - 29)] })).toEqual([]);
  expect(codes({ otherChanges: [other(DAY + 31)] })).toEqual([]);
  expect(codes({ otherChanges: [other(DAY, 11)] })).toEqual([]);
  expect(codes({ otherChanges: [change()] })).toEqual([]);
});

test('missing days are named, each side for itself', () => {
  const covered = daysOf(DAY - 60, DAY + 60);
  for (const off of [-10, -9, -3, 20]) covered.delete(asDay(DAY + off));
  const cautions = makeReading(input({ daysWithFigures: covered })).cautions;
  expect(cautions.map((c) => c.code)).toEqual(['missing-days', 'missing-days']);
  expect(cautions[0]?.message).toMatch(/3 of the 28 before days have no figures: .+ – .+, /);
  expect(cautions[1]?.message).toMatch(/1 of the 28 after days has no figures/);
});

test.each([
  [19, ['few-clicks']],
  [20, []],
])('%p clicks in both spans together', (clicks, wanted) => {
  const pageDays = [figures(DAY - 1, clicks - 9, 500), figures(DAY + 5, 9, 500)];
  expect(codes({ pageDays })).toEqual(wanted);
});

test('provisional days are counted', () => {
  const reading = makeReading(
    input({ lastReadable: asDay(DAY + 27), daysWithFigures: daysOf(DAY - 60, DAY + 30) }),
  );
  expect(reading.cautions.map((c) => c.message)).toEqual([
    expect.stringMatching(/^3 after days have provisional/),
  ]);
});

test('page totals without rows by query leave the queries unknown, not 0', () => {
  const named = {
    change: change({ queries: ['bee smoker'] }),
    queryDays: [{ query: 'bee smoker', days: [] }],
  };
  const none = makeReading(input({ ...named, daysWithQueries: new Set() }));
  expect(none.queries[0]?.metrics.clicks).toEqual({
    before: null,
    after: null,
    difference: null,
    ratio: null,
  });
  expect(none.cautions.map((c) => c.message)).toEqual([expect.stringMatching(/^No rows by query/)]);

  const some = makeReading(input({ ...named, daysWithQueries: daysOf(DAY - 20, DAY + 29) }));
  expect(some.queries[0]?.metrics.clicks.before).toBe(0);
  expect(some.cautions.map((c) => c.message)).toEqual([
    expect.stringMatching(/^On 8 before days and 1 after day there are page totals/),
  ]);
  expect(codes(named)).toEqual([]);
  expect(codes({ daysWithQueries: new Set() })).toEqual([]);
});

test('totals made of query rows say so', () => {
  const pageDays = input().pageDays.map((row) => ({ ...row, fromQueries: row.day === DAY + 5 }));
  expect(codes({ pageDays })).toEqual(['query-sums']);
});

test('totals that are sums of query rows on all days read are said to be so, the settling days left aside', () => {
  const messages = (pageDays: PageDay[]) => makeReading(input({ pageDays })).cautions.map((c) => c.message);
  const all = input().pageDays.map((row) => ({ ...row, fromQueries: true }));
  // Page totals of a settling day are not read, and those of days outside the spans neither.
  const read = all.map((row) => ({ ...row, fromQueries: row.day !== DAY && row.day > DAY - 40 }));
  for (const rows of [all, read])
    expect(messages(rows)).toEqual([expect.stringMatching(/^The totals are sums/)]);
  const some = all.map((row) => ({ ...row, fromQueries: row.day !== DAY - 3 }));
  expect(messages(some)).toEqual([expect.stringMatching(/^On some days the totals are sums/)]);
});

test('an absent position is mentioned', () => {
  const pageDays = input().pageDays.map((row) => ({ ...row, positionSum: 0, positionWeight: 0 }));
  expect(codes({ pageDays })).toEqual(['no-position']);
});

test('a season on one side only has a code of its own', () => {
  const season = (first: number, last: number) =>
    codes({ events: [event(DAY + first, DAY + last, { kind: 'holiday-or-season' })] });
  expect(season(-40, -10)).toEqual(['season-on-one-side']);
  expect(season(10, 90)).toEqual(['season-on-one-side']);
  expect(season(-10, 10)).toEqual(['event-in-span']);
});

test('shares of devices that moved, and what the least of them may be', () => {
  const sharesIn = (after: number) => () => [
    {
      by: 'device' as const,
      parts: [
        { name: 'mobile', before: 600, after },
        { name: 'desktop', before: 400, after: 1000 - after },
      ],
    },
    { by: 'country' as const, parts: [] },
  ];
  expect(codes({ sharesIn: sharesIn(690) })).toEqual([]);
  const [caution] = makeReading(input({ sharesIn: sharesIn(710) })).cautions;
  expect(caution?.code).toBe('shares-moved');
  expect(caution?.message).toMatch(/by device moved: mobile from 60% to 71%/);
});

const steady =
  (salt: number, level: (day: number) => number = () => 1): DayOf =>
  (day) => {
    const clicks = Math.round(60 * level(day) * (1 + 0.05 * Math.sin(day / (9 + salt))));
    return { clicks, impressions: 30 * clicks, position: 5 };
  };
const site = (own: DayOf, others: number) => {
  const pages = [own, ...Array.from({ length: others }, (_, i) => steady(i + 2))];
  return makeReading(siteInput(pages)).cautions.map((c) => c.code);
};

test('a yardstick of few pages, or of none, is a doubt', () => {
  expect(site(steady(1), 12)).toEqual([]);
  expect(site(steady(1), 4)).toEqual(['few-yardstick-pages']);
  expect(site(steady(1), 0)).toEqual(['few-yardstick-pages']);
});

test('a page that had dipped, or was already falling, is a doubt', () => {
  const dipped = (day: number) => (day >= DAY - 28 ? 0.3 : 1);
  expect(site(steady(1, dipped), 12)).toContain('low-before');
  const peaked = (day: number) => (day >= DAY - 28 ? 3 : 1);
  expect(site(steady(1, peaked), 12)).toContain('high-before');
  const falling = (day: number) => (day >= DAY - 7 ? 0.2 : 1);
  expect(site(steady(1, falling), 12)).toContain('moving-before');
});

test('days are over and a span has no figures at all', () => {
  const reading = makeReading(
    input({ daysWithFigures: daysOf(DAY, DAY + 60), engine: readerOf([steady(1)]) }),
  );
  expect(reading.cautions.map((c) => c.code)).toContain('no-figures');
  expect(reading).toMatchObject({ verdict: 'unclear', net: null });
});

describe('what happened on the result pages', () => {
  const events = (kind: string, from: number, to: number) =>
    [
      { kind, query: 'wax', from: asDay(DAY + from), to: asDay(DAY + to), text: 'the result lost its stars' },
    ] as never;
  const messages = (resultsEvents: never, over: object = {}) =>
    makeReading(input({ resultsEvents, change: change(over) }))
      .cautions.filter(({ code }) => code === 'results-changed')
      .map(({ message }) => message);

  test('is a doubt where it fell inside the spans, with what it does to clicks at the same rank', () => {
    const [message] = messages(events('extras-lost', 5, 12));
    expect(message).toMatch(/^Between .* the result lost its stars \(“wax”\), on \d of the 28 after days/);
    expect(message).toMatch(/fewer clicks at the same rank are then no fault of the title\.$/);
    expect(messages(events('extras-lost', 80, 90))).toEqual([]);
  });

  test('that the results show the new title is what a change of text is for, and no doubt', () => {
    expect(messages(events('own-reworded', 2, 9), { newText: 'new' })).toEqual([]);
    expect(messages(events('own-reworded', 2, 9))).toHaveLength(1);
  });
});

describe('the new text in the results', () => {
  const codes = (over: object) =>
    makeReading(input({ change: change(over) })).cautions.filter(
      ({ code }) => code === 'not-seen-in-results',
    );

  test('is asked for only where somebody follows the steps of a change of text', () => {
    expect(codes({ newText: 'new' })).toEqual([]);
    expect(codes({ steps: { crawled: asDay(DAY + 2) } })).toEqual([]);
    expect(codes({ newText: 'new', steps: { crawled: asDay(DAY + 2) } })).toMatchObject([
      { message: 'Nobody has seen the new text in the results yet.' },
    ]);
  });

  test('seen before the after span it is no doubt, seen within it the days before are', () => {
    const seen = (day: number) => ({ newText: 'new', steps: { 'seen-in-results': asDay(day) } });
    expect(codes(seen(DAY + 2))).toEqual([]);
    const [late] = codes(seen(DAY + 8));
    expect(late!.message).toMatch(/on \d+ after days they may have shown the old/);
  });
});
