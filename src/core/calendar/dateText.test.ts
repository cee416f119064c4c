import fc from 'fast-check';
import { asDay, isoDay, parseIsoDay, type Day } from './day';
import { dayOfUtcDate, formatDay, NAMED_RANGES, parseTypedDay, utcDate } from './dateText';

const day = (iso: string) => parseIsoDay(iso) as Day;
const TODAY = day('2026-11-24');
const typed = (text: string) => {
  const found = parseTypedDay(text, TODAY);
  return found === null ? null : isoDay(found);
};

test.each([
  ['2026-09-04', '2026-09-04'],
  ['4 Sep 2026', '2026-09-04'],
  [' 4  september 2026 ', '2026-09-04'],
  ['04/09/2026', '2026-09-04'],
  ['4.9.2026', '2026-09-04'],
  ['Sep 4, 2026', '2026-09-04'],
  ['4 Sep', '2026-09-04'],
  ['Today', '2026-11-24'],
  ['yesterday', '2026-11-23'],
])('%s is read as %s', (text, iso) => expect(typed(text)).toBe(iso));

test.each(['', '30 Feb 2026', '2026-02-30', '13/13/2026', '4 Sep 26', 'soon', '4'])('%j is no day', (text) =>
  expect(typed(text)).toBeNull(),
);

test('what is shown is read as the same day, whatever the day', () => {
  fc.assert(
    fc.property(fc.integer({ min: -20_000, max: 80_000 }), (n) => {
      const one = asDay(n);
      expect(dayOfUtcDate(utcDate(one))).toBe(one);
      for (const pattern of ['d MMM yyyy', 'd MMMM yyyy', 'dd/MM/yyyy'])
        expect(parseTypedDay(formatDay(one, pattern), TODAY)).toBe(one);
    }),
  );
});

test('named ranges end with the newest figures, and a year earlier is that of what is chosen', () => {
  const chosen = { firstDay: day('2026-02-01'), lastDay: day('2026-02-28') };
  const ranges = NAMED_RANGES.map(({ label, of }) => {
    const span = of(TODAY, chosen)!;
    return `${label}: ${isoDay(span.firstDay)} to ${isoDay(span.lastDay)}`;
  });
  expect(ranges).toEqual([
    'Last 7 days: 2026-11-18 to 2026-11-24',
    'Last 28 days: 2026-10-28 to 2026-11-24',
    'Last 90 days: 2026-08-27 to 2026-11-24',
    'This month: 2026-11-01 to 2026-11-24',
    'A year earlier: 2025-02-01 to 2025-02-28',
  ]);
  expect(NAMED_RANGES.at(-1)!.of(TODAY, null)).toBeNull();
});
