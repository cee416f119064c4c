import { addDays, asDay } from '../calendar/day';
import type { DayFigures } from '../measures/totals';
import { DAY, daysOf, figures, input } from '../../../tests/support/readingInput';
import { finalOn } from './readable';
import type { Reading } from './readingModel';
import { makeReading } from './reading';
import { readingSentence } from './readingSentence';
import { readingStrips } from './strips';

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
    const [pb, pa] = [add(before, (r) => r.positionSum) / ib, add(after, (r) => r.positionSum) / ia];
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
      positionWeight: 1000,
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

const found = (reading: Reading) =>
  readingSentence(reading)
    .found.map((piece) => piece.text)
    .join('');

describe('state', () => {
  test('without a history to hold it against, a complete reading states the raw change and claims nothing', () => {
    const reading = makeReading(input());
    expect(reading).toMatchObject({ verdict: 'unclear', net: null, yardstick: null, swing: null });
    expect(reading.spans).toMatchObject({ complete: true, completeOn: null });
    expect(found(reading)).toBe('Clicks stayed at 280.');
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
    expect(found(reading)).toBe('Too soon to compare anything.');
    const [strip] = readingStrips(
      reading,
      { firstDay: asDay(DAY - 30), lastDay: asDay(DAY + 32) },
      input().pageDays,
      input().daysWithFigures,
      null,
      null,
    );
    expect(strip).toMatchObject({ before: 10, after: null });
  });

  test.each([null, asDay(DAY - 29)])('without any readable day (%p) there is nothing', (lastReadable) => {
    const reading = makeReading(input({ lastReadable }));
    expect(reading).toMatchObject({ verdict: 'waiting', compared: null });
    expect(reading.metrics.clicks).toEqual({ before: null, after: null, difference: null, ratio: null });
    expect(found(reading)).toBe('There are no figures for these days yet.');
  });

  test('says when there will be something to see', () => {
    const early = makeReading(input({ lastReadable: asDay(DAY), today: asDay(DAY + 5) }));
    // The first week ends on the tenth day, and figures are final five days later.
    expect(early.spans).toMatchObject({ interimOn: DAY + 9 + 5, completeOn: DAY + 30 + 5 });
    expect(readingSentence(early).limits).toMatch(
      /^A first interim figure comes on .+; the reading will be complete on/,
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
    expect(makeReading(input({ lastReadable: asDay(DAY + 30) })).verdict).toBe('unclear');
    expect(makeReading(input({ lastReadable: asDay(DAY + 29) })).verdict).toBe('waiting');
  });

  test('a span without any figures is absent, not 0', () => {
    const reading = makeReading(input({ daysWithFigures: daysOf(DAY, DAY + 60) }));
    expect(reading.verdict).toBe('unclear');
    expect(reading.metrics.clicks.before).toBeNull();
    expect(found(reading)).toMatch(/no figures for the before span/);
  });

  test('a page that was not shown on days with figures had no clicks', () => {
    const reading = makeReading(input({ pageDays: [] }));
    expect(reading.verdict).toBe('unclear');
    expect(reading.metrics.clicks).toEqual({ before: 0, after: 0, difference: 0, ratio: null });
    expect(reading.metrics.ctr.before).toBeNull();
    expect(found(reading)).toBe('Clicks stayed at 0.');
  });
});
