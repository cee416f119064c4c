import { asDay } from '../calendar/day';
import { DAY, daysOf, input } from '../../../tests/support/readingInput';
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
  const [clicks, , ctr] = readingStrips(reading, shown, pageDays, covered, null);
  expect(clicks?.values.slice(0, 3)).toEqual([null, 0, 10]);
  expect(ctr?.values.slice(0, 3)).toEqual([null, null, 0.05]);
  expect(clicks?.before).toBe(10);
});
