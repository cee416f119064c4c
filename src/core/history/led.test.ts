import fc from 'fast-check';
import { asDay, type Day } from '../calendar/day';
import { ledDays, type ShownOnDay } from './led';

const row = (
  pageId: number,
  day: number,
  impressions: number,
  position: number | null = null,
): ShownOnDay => ({
  ...{ pageId, impressions, position },
  day: asDay(day),
});

test('the page that was seen most leads, of equals the higher one, and runs go over days without showings', () => {
  const led = ledDays([
    row(1, 1, 9, 5),
    row(2, 1, 3, 1),
    row(1, 2, 4, 6),
    row(2, 2, 4, 2),
    row(1, 4, 1),
    row(1, 6, 2),
    row(2, 6, 0, 1),
  ]);
  expect(led).toEqual([
    {
      pageId: 1,
      days: 3,
      runs: [
        { firstDay: 1, lastDay: 1 },
        { firstDay: 4, lastDay: 6 },
      ],
    },
    { pageId: 2, days: 1, runs: [{ firstDay: 2, lastDay: 2 }] },
  ]);
});

test('each day with showings has one leader, whatever the order of the rows', () => {
  const rows = fc.uniqueArray(
    fc.record({
      pageId: fc.integer({ min: 1, max: 4 }),
      day: fc.integer({ min: 0, max: 12 }).map((day) => day as Day),
      impressions: fc.integer({ min: 0, max: 5 }),
      // Told apart, so that no two pages are alike in everything.
      position: fc.constant(null),
    }),
    { selector: ({ pageId, day }) => `${pageId}/${day}` },
  );
  fc.assert(
    fc.property(rows, (given) => {
      const placed = given.map((one) => ({ ...one, position: one.pageId }));
      const led = ledDays(placed);
      const days = new Set(given.filter(({ impressions }) => impressions > 0).map(({ day }) => day));
      expect(led.reduce((sum, one) => sum + one.days, 0)).toBe(days.size);
      expect(ledDays([...placed].reverse())).toEqual(led);
    }),
  );
});
