import { asDay } from '../calendar/day';
import { change, DAY, daysOf, event, figures, input } from '../../../tests/support/readingInput';
import type { ReadingInput } from './input';
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

test('an absent position is mentioned', () => {
  const pageDays = input().pageDays.map((row) => ({ ...row, positionSum: null }));
  expect(codes({ pageDays })).toEqual(['no-position']);
});
