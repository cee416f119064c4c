import { addDays, asDay, type Day } from '../calendar/day';
import type { DayFigures } from '../measures/totals';
import type { Change } from '../model/change';
import type { OutsideEvent } from '../model/event';
import type { PageDay, ReadingInput } from './input';
import { finalOn, lastReadableDay } from './readable';
import { makeReading } from './reading';
import { readingSentence } from './sentence';
import { readingStrips } from './strips';

const DAY = asDay(20_700);

function change(over: Partial<Change> = {}): Change {
  return {
    ...{ id: 1, siteId: 1, title: 'Shorter title', kind: 'title-rewrite', day: DAY, queries: [] },
    pages: [{ id: 10, address: 'https://www.quillow-bees.example/guides/' }],
    ...{ oldText: null, newText: null, settlingDays: null, windowDays: null, expectation: null },
    ...{ person: null, link: null, note: null },
    ...over,
  };
}

function event(firstDay: number, lastDay: number, over: Partial<OutsideEvent> = {}): OutsideEvent {
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

const figures = (day: number, clicks: number, impressions: number, position: number | null = 5): PageDay => ({
  day: asDay(day),
  clicks,
  impressions,
  positionSum: position === null ? null : position * impressions,
  fromQueries: false,
});

function daysOf(first: number, last: number): Set<Day> {
  return new Set(Array.from({ length: last - first + 1 }, (_, i) => asDay(first + i)));
}

/** Sixty days on both sides of the change, ten clicks of two hundred impressions each. */
function input(over: Partial<ReadingInput> = {}): ReadingInput {
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

const codes = (over: Partial<ReadingInput>) => makeReading(input(over)).cautions.map((c) => c.code);

describe('figures', () => {
  test('equal an independent calculation', () => {
    // Uneven figures, so that a mean of daily values would give another answer.
    const pageDays = [...daysOf(DAY - 60, DAY + 60)].map((day) =>
      figures(day, day % 7, 50 + (day % 13) * 30, 3 + (day % 5)),
    );
    const { metrics } = makeReading(input({ pageDays }));
    const by = (from: number, to: number) => pageDays.filter((row) => row.day >= from && row.day <= to);
    const add = (rows: DayFigures[], of: (row: DayFigures) => number) =>
      rows.map(of).reduce((a, b) => a + b, 0);
    const before = by(DAY - 28, DAY - 1);
    const after = by(DAY + 3, DAY + 30);
    const [cb, ca] = [add(before, (r) => r.clicks), add(after, (r) => r.clicks)];
    const [ib, ia] = [add(before, (r) => r.impressions), add(after, (r) => r.impressions)];
    const [pb, pa] = [add(before, (r) => r.positionSum!) / ib, add(after, (r) => r.positionSum!) / ia];
    expect(metrics.clicks).toEqual({ before: cb, after: ca, difference: ca - cb, ratio: ca / cb });
    expect(metrics.impressions).toEqual({ before: ib, after: ia, difference: ia - ib, ratio: ia / ib });
    expect(metrics.ctr.before).toBeCloseTo(cb / ib, 14);
    expect(metrics.ctr.difference).toBeCloseTo(ca / ia - cb / ib, 14);
    expect(metrics.position.placesGained).toBeCloseTo(pb - pa, 12);
  });

  test('several pages are read together', () => {
    const second = input().pageDays.map((row) => ({
      ...row,
      clicks: 1,
      impressions: 1000,
      positionSum: 30_000,
    }));
    const { metrics } = makeReading(input({ pageDays: [...input().pageDays, ...second] }));
    expect(metrics.clicks.before).toBe(28 * 11);
    expect(metrics.ctr.before).toBeCloseTo(11 / 1200, 14);
    expect(metrics.position.before).toBeCloseTo((200 * 5 + 1000 * 30) / 1200, 12);
  });

  test('a query is read on its own', () => {
    const days = input().pageDays.map((row) => ({ ...row, clicks: row.day >= DAY ? 4 : 2 }));
    const reading = makeReading(input({ queryDays: [{ query: 'bee smoker', days }] }));
    expect(reading.queries[0]?.metrics.clicks.ratio).toBe(2);
    expect(reading.metrics.clicks.ratio).toBe(1);
  });

  // Data set Seatbelts of R 4.2 (Harvey and Durbin, JRSS A 149, 1986): drivers' front and rear passengers killed or
  // seriously injured, by month, February 1982 to January 1984; the law came in February 1983. Printed by
  //   w <- window(Seatbelts, start = c(1982, 2), end = c(1984, 1)); w[, "front"]; w[, "rear"]
  // One month stands for one day here. What R gives for the sums: front 0.6926809, rear 0.9724152.
  test.each([
    [
      'front',
      [673, 660, 676, 755, 815, 867, 933, 798, 950, 825, 911, 619],
      [426, 475, 556, 559, 483, 587, 615, 618, 662, 519, 585, 483],
      0.6927,
    ],
    [
      'rear',
      [285, 324, 346, 410, 411, 496, 534, 396, 470, 385, 411, 281],
      [300, 318, 391, 398, 337, 477, 422, 495, 471, 368, 345, 296],
      0.9724,
    ],
  ])('Seatbelts, %s: twelve months before and after', (_seat, before, after, ratio) => {
    const rows = [...before, ...after].map((n, i) => figures(DAY - 12 + i, n, n));
    const reading = makeReading(input({ pageDays: rows, windowDays: 12, settlingDays: 0 }));
    expect(reading.metrics.clicks.ratio).toBeCloseTo(ratio, 4);
  });
});

describe('state', () => {
  test('a complete reading states the raw change and claims no more', () => {
    const reading = makeReading(input());
    expect(reading.verdict).toBe('raw-change');
    expect(reading.spans).toMatchObject({ complete: true, completeOn: null });
    expect(readingSentence(reading).limits).toMatch(/raw change/);
  });

  test('until the after span is over it waits, with whole weeks on both sides', () => {
    const reading = makeReading(input({ lastReadable: asDay(DAY + 3 + 16), today: asDay(DAY + 24) }));
    expect(reading.verdict).toBe('waiting');
    expect(reading.compared).toEqual({
      before: { firstDay: DAY - 14, lastDay: DAY - 1 },
      after: { firstDay: DAY + 3, lastDay: DAY + 16 },
    });
    expect(reading.metrics.clicks).toMatchObject({ before: 140, after: 140 });
    expect(reading.spans.completeOn).toBe(finalOn(addDays(DAY, 30), 3));
    expect(readingSentence(reading).limits).toMatch(/2 whole weeks/);
  });

  test.each([
    ['a day before the first whole week', DAY + 8, DAY - 1, 280],
    ['the day of the change', DAY, DAY - 1, 280],
    ['three days before the change', DAY - 3, DAY - 3, 260],
    ['the first before day', DAY - 28, DAY - 28, 10],
  ])('readable to %s, before is there and nothing is compared', (_name, last, lastBefore, clicks) => {
    const reading = makeReading(input({ lastReadable: asDay(last) }));
    expect(reading.verdict).toBe('waiting');
    expect(reading.compared).toEqual({ before: { firstDay: DAY - 28, lastDay: lastBefore }, after: null });
    expect(reading.metrics.clicks).toEqual({ before: clicks, after: null, difference: null, ratio: null });
    expect(readingSentence(reading).seen).toBe('Too soon to compare anything.');
    const [strip] = readingStrips(
      reading,
      { firstDay: asDay(DAY - 30), lastDay: asDay(DAY + 32) },
      input().pageDays,
      input().daysWithFigures,
    );
    expect(strip).toMatchObject({ before: 10, after: null });
  });

  test.each([null, asDay(DAY - 29)])('without any readable day (%p) there is nothing', (lastReadable) => {
    const reading = makeReading(input({ lastReadable }));
    expect(reading).toMatchObject({ verdict: 'waiting', compared: null });
    expect(reading.metrics.clicks).toEqual({ before: null, after: null, difference: null, ratio: null });
    expect(readingSentence(reading).seen).toBe('There are no figures for these days yet.');
  });

  test('says when there will be something to see', () => {
    const early = makeReading(input({ lastReadable: asDay(DAY), today: asDay(DAY + 5) }));
    // The first week ends on the tenth day, and figures are final five days later.
    expect(early.spans).toMatchObject({ interimOn: DAY + 9 + 5, completeOn: DAY + 30 + 5 });
    expect(readingSentence(early).limits).toMatch(
      /^A first interim figure comes on .+; it will be complete on/,
    );
    const short = makeReading(input({ lastReadable: asDay(DAY), today: asDay(DAY + 5), windowDays: 7 }));
    expect(short.spans).toMatchObject({ interimOn: null, completeOn: DAY + 9 + 5 });
  });

  test('where the days are over, it waits for figures and not for a day that has passed', () => {
    const waiting = (today: number) =>
      makeReading(input({ lastReadable: asDay(DAY + 20), today: asDay(today) }));
    expect(waiting(DAY + 34).spans.completeOn).toBe(DAY + 35);
    expect(waiting(DAY + 35).spans.completeOn).toBeNull();
    expect(readingSentence(waiting(DAY + 35)).limits).toMatch(
      /^Interim, over 2 whole weeks on both sides\. Its days are over: bring in figures up to /,
    );
  });

  test('the last day of the after span is enough', () => {
    expect(makeReading(input({ lastReadable: asDay(DAY + 30) })).verdict).toBe('raw-change');
    expect(makeReading(input({ lastReadable: asDay(DAY + 29) })).verdict).toBe('waiting');
  });

  test('a span without any figures is absent, not 0', () => {
    const reading = makeReading(input({ daysWithFigures: daysOf(DAY, DAY + 60) }));
    expect(reading.verdict).toBe('no-figures');
    expect(reading.metrics.clicks.before).toBeNull();
    expect(readingSentence(reading).seen).toMatch(/no figures for the before span/);
  });

  test('a page that was not shown on days with figures had no clicks', () => {
    const reading = makeReading(input({ pageDays: [] }));
    expect(reading.verdict).toBe('raw-change');
    expect(reading.metrics.clicks).toEqual({ before: 0, after: 0, difference: 0, ratio: null });
    expect(reading.metrics.ctr.before).toBeNull();
    expect(readingSentence(reading).seen).toBe('Clicks stayed at 0.');
  });
});

describe('the newest readable day', () => {
  const coverage = (takenOn: number) => ({ lastDay: DAY, takenOn: asDay(takenOn) });

  test('of a fresh file, the newest days are provisional', () => {
    expect(lastReadableDay(coverage(DAY + 2), 3)).toBe(DAY - 3);
  });

  test('of a file taken long after its last day, none is', () => {
    expect(lastReadableDay(coverage(DAY + 5), 3)).toBe(DAY);
    expect(lastReadableDay(coverage(DAY + 400), 3)).toBe(DAY);
  });

  test('in between, those that are too young', () => {
    expect(lastReadableDay(coverage(DAY + 3), 3)).toBe(DAY - 2);
    expect(lastReadableDay(coverage(DAY + 4), 3)).toBe(DAY - 1);
  });
});

describe('doubts', () => {
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
});

describe('strips', () => {
  const shown = { firstDay: asDay(DAY - 30), lastDay: asDay(DAY + 32) };

  test('levels are means a day for counts, and the span’s own for ratios', () => {
    const pageDays = input().pageDays.map((row) => ({ ...row, clicks: row.day >= DAY ? 20 : 10 }));
    const reading = makeReading(input({ pageDays }));
    const [clicks, impressions, ctr, position] = readingStrips(
      reading,
      shown,
      pageDays,
      input().daysWithFigures,
    );
    expect(clicks).toMatchObject({ metric: 'clicks', before: 10, after: 20 });
    expect(impressions).toMatchObject({ before: 200, after: 200 });
    expect([ctr?.before, ctr?.after]).toEqual([0.05, 0.1]);
    expect(position).toMatchObject({ before: 5, after: 5 });
    expect(clicks?.values).toHaveLength(63);
  });

  test('a missing day is a gap, and lowers no level; a day without impressions is 0 and has no CTR', () => {
    const covered = daysOf(DAY - 60, DAY + 60);
    covered.delete(asDay(DAY - 30));
    covered.delete(asDay(DAY - 5));
    const pageDays = input().pageDays.filter((row) => covered.has(row.day) && row.day !== DAY - 29);
    const reading = makeReading(input({ pageDays, daysWithFigures: covered }));
    const [clicks, , ctr] = readingStrips(reading, shown, pageDays, covered);
    expect(clicks?.values.slice(0, 3)).toEqual([null, 0, 10]);
    expect(ctr?.values.slice(0, 3)).toEqual([null, null, 0.05]);
    expect(clicks?.before).toBe(10);
  });
});

describe('sentence', () => {
  const expecting = (metric: 'ctr' | 'position') =>
    change({ expectation: { metric, direction: 'up', amount: null, reviewDay: null } });
  const moving = [...daysOf(DAY - 60, DAY + 60)].map((day) =>
    figures(day, day < DAY ? 10 : 15, 200, day < DAY ? 8 : 7.5),
  );

  test('without an expectation, the clicks with their difference', () => {
    const { seen } = readingSentence(makeReading(input({ pageDays: moving })));
    expect(seen).toBe('Clicks rose from 280 to 420 (+140, +50.0%).');
  });

  test('the metric on which the effect was expected comes first', () => {
    const ctr = readingSentence(makeReading(input({ pageDays: moving, change: expecting('ctr') })));
    expect(ctr.seen).toBe(
      'CTR, where the effect was expected, rose from 5.00% to 7.50% (+2.50 points, +50.0%). Clicks rose from 280 to 420 (+140, +50.0%).',
    );
    const position = readingSentence(makeReading(input({ pageDays: moving, change: expecting('position') })));
    expect(position.seen).toMatch(
      /^Position, where the effect was expected, improved from 8.0 to 7.5 \(0.5 places up\)/,
    );
  });

  test('what rounds to the same value stayed, and did not move', () => {
    const rows = moving.map((row) => ({
      ...row,
      clicks: 10,
      positionSum: row.day < DAY ? 4.2 * 200 : 840.0001,
    }));
    const position = readingSentence(makeReading(input({ pageDays: rows, change: expecting('position') })));
    expect(position.seen).toBe(
      'Position, where the effect was expected, stayed at 4.2. Clicks stayed at 280.',
    );
  });

  test('an interim figure is no new sentence', () => {
    const waiting = { pageDays: moving, lastReadable: asDay(DAY + 20), today: asDay(DAY + 25) };
    expect(readingSentence(makeReading(input(waiting))).seen).toMatch(/^So far, clicks rose from 140 to 210/);
    expect(readingSentence(makeReading(input({ ...waiting, change: expecting('ctr') }))).seen).toMatch(
      /^So far, CTR, where the effect/,
    );
  });

  test('an absent metric is called absent', () => {
    const pageDays = moving.map((row) => ({ ...row, positionSum: null }));
    const { seen } = readingSentence(makeReading(input({ pageDays, change: expecting('position') })));
    expect(seen).toMatch(/cannot be compared, being absent/);
  });
});
