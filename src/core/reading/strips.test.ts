import { asDay } from '../calendar/day';
import { DAY, daysOf, input, siteInput, type DayOf } from '../../../tests/support/readingInput';
import { makeReading } from './reading';
import { readingStrips } from './strips';

const shown = { firstDay: asDay(DAY - 30), lastDay: asDay(DAY + 32) };

test('levels are means a day for counts, and the span’s own for ratios', () => {
  const pageDays = input().pageDays.map((row) => ({ ...row, clicks: row.day >= DAY ? 20 : 10 }));
  const reading = makeReading(input({ pageDays }));
  const [clicks, impressions, ctr, position] = readingStrips(
    reading,
    shown,
    pageDays,
    input().daysWithFigures,
    null,
    null,
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
  const [clicks, , ctr] = readingStrips(reading, shown, pageDays, covered, null, null);
  expect(clicks?.values.slice(0, 3)).toEqual([null, 0, 10]);
  expect(ctr?.values.slice(0, 3)).toEqual([null, null, 0.05]);
  expect(clicks?.before).toBe(10);
});

test('the path stands at the level of the page, and its gap to the after level is the net effect', () => {
  const own: DayOf = (day) => ({ clicks: day >= DAY ? 90 : 60, impressions: 1500, position: 5 });
  const other =
    (salt: number): DayOf =>
    (day) => {
      const clicks = Math.round(40 * (1 + 0.05 * Math.sin(day / (8 + salt))));
      return { clicks, impressions: 30 * clicks, position: 5 };
    };
  const given = siteInput([own, ...[1, 2, 3, 4, 5, 6].map(other)]);
  const reading = makeReading(given);
  const asked = { ids: [10], day: DAY, horizon: { days: 28, settlingDays: 3 } };
  const path = given.engine!.path(asked, reading.compared!.before, shown);
  const expected = new Map([...daysOf(DAY - 30, DAY + 32)].map((day) => [day, 1500] as const));
  const strips = readingStrips(reading, shown, given.pageDays, given.daysWithFigures, path, expected);
  const [clicks, , , , appeal] = strips;
  // Of a week each: clicks over those expected of its showings.
  expect(appeal!.values[50]).toBeCloseTo(90 / 1500, 12);
  expect(appeal!.metric).toBe('appeal');
  const after = clicks!.path!.slice(33, 61) as number[];
  const mean = after.reduce((sum, value) => sum + value, 0) / after.length;
  expect(clicks!.after! / mean).toBeCloseTo(reading.net!.clicks!.ratio, 6);
  expect(clicks!.path![10]!).toBeGreaterThan(50);
  expect(clicks!.path![10]!).toBeLessThan(70);
  expect(clicks!.mark).toBe('lifted');
});
