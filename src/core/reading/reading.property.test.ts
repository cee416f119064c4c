import fc from 'fast-check';
import { asDay } from '../calendar/day';
import type { Metrics } from '../measures/comparison';
import { change, DAY, daysOf, figures, input } from '../../../tests/support/readingInput';
import type { PageDay } from './input';
import { makeReading } from './reading';

const FIRST = DAY - 60;

/** Figures of every day around the change; some days without impressions. */
const anyPage = fc
  .array(fc.record({ clicks: fc.nat(40), more: fc.nat(400), position: fc.integer({ min: 1, max: 60 }) }), {
    minLength: 121,
    maxLength: 121,
  })
  .map((days) =>
    days.map(({ clicks, more, position }, i) => figures(FIRST + i, clicks, clicks + more, position)),
  );
const anySpans = fc.record({
  windowDays: fc.integer({ min: 1, max: 28 }),
  settlingDays: fc.integer({ min: 0, max: 30 }),
});

const metricsOf = (pageDays: readonly PageDay[], over: Parameters<typeof input>[0] = {}): Metrics =>
  makeReading(input({ pageDays, ...over })).metrics;

function expectClose(a: Metrics, b: Metrics): void {
  expect(a.clicks).toEqual(b.clicks);
  expect(a.impressions).toEqual(b.impressions);
  for (const side of ['before', 'after'] as const) {
    expect(a.ctr[side] ?? -1).toBeCloseTo(b.ctr[side] ?? -1, 12);
    expect(a.position[side] ?? -1).toBeCloseTo(b.position[side] ?? -1, 9);
  }
}

test('any spans of any figures come to sums made day by day', () => {
  fc.assert(
    fc.property(anyPage, anySpans, (rows, spans) => {
      const metrics = metricsOf(rows, spans);
      for (const [side, first] of [
        ['before', DAY - spans.windowDays],
        ['after', DAY + spans.settlingDays],
      ] as const) {
        let [clicks, impressions, weighted] = [0, 0, 0];
        for (let day = first; day < first + spans.windowDays; day++) {
          const row = rows[day - FIRST]!;
          clicks += row.clicks;
          impressions += row.impressions;
          weighted += row.positionSum;
        }
        expect(metrics.clicks[side]).toBe(clicks);
        expect(metrics.impressions[side]).toBe(impressions);
        expect(metrics.ctr[side]).toBe(impressions === 0 ? null : clicks / impressions);
        expect(metrics.position[side]).toBe(impressions === 0 ? null : weighted / impressions);
      }
    }),
  );
});

test('the order of the rows, and their division among pages, change nothing', () => {
  fc.assert(
    fc.property(
      anyPage,
      fc.array(fc.double({ min: 0, max: 1, noNaN: true }), { minLength: 121 }),
      (rows, at) => {
        const halves = rows.flatMap((row, i) => {
          const share = at[i] ?? 0;
          const part = (n: number) => Math.floor(n * share);
          const left = {
            clicks: part(row.clicks),
            impressions: part(row.impressions),
            positionSum: part(row.positionSum),
            positionWeight: part(row.positionWeight),
          };
          const right = {
            clicks: row.clicks - left.clicks,
            impressions: row.impressions - left.impressions,
            positionSum: row.positionSum - left.positionSum,
            positionWeight: row.positionWeight - left.positionWeight,
          };
          return [left, right].map((half) => ({ ...row, ...half }));
        });
        expectClose(metricsOf(halves.reverse()), metricsOf(rows));
      },
    ),
  );
});

test('a reading does not depend on when it was: moving every day moves nothing else', () => {
  fc.assert(
    fc.property(anyPage, fc.integer({ min: -3000, max: 3000 }), (rows, by) => {
      const moved = metricsOf(
        rows.map((row) => ({ ...row, day: asDay(row.day + by) })),
        {
          change: change({ day: asDay(DAY + by) }),
          lastReadable: asDay(DAY + 60 + by),
          daysWithFigures: daysOf(FIRST + by, DAY + 60 + by),
          today: asDay(DAY + 65 + by),
        },
      );
      expect(moved).toEqual(metricsOf(rows));
    }),
  );
});

test('days outside the spans say nothing', () => {
  fc.assert(
    fc.property(anyPage, anyPage, anySpans, (rows, others, spans) => {
      const read = (row: PageDay) =>
        (row.day >= DAY - spans.windowDays && row.day < DAY) ||
        (row.day >= DAY + spans.settlingDays && row.day < DAY + spans.settlingDays + spans.windowDays);
      const mixed = rows.map((row, i) => (read(row) ? row : others[i]!));
      expect(metricsOf(mixed, spans)).toEqual(metricsOf(rows, spans));
    }),
  );
});

test('while it waits, both sides have equally many days, in whole weeks, and none that cannot be read', () => {
  fc.assert(
    fc.property(anySpans, fc.integer({ min: DAY - 60, max: DAY + 57 }), (spans, last) => {
      const { compared, spans: whole, verdict } = makeReading(input({ ...spans, lastReadable: asDay(last) }));
      if (!compared?.after) return;
      const { before, after } = compared;
      const length = after.lastDay - after.firstDay + 1;
      expect(before.lastDay - before.firstDay + 1).toBe(length);
      expect(after.lastDay).toBeLessThanOrEqual(last);
      expect([before.lastDay, after.firstDay]).toEqual([DAY - 1, whole.after.firstDay]);
      if (verdict === 'waiting') expect(length % 7).toBe(0);
      else expect(length).toBe(spans.windowDays);
    }),
  );
});
