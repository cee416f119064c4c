import fc from 'fast-check';
import { addDays, asDay, dayFromDate, isoDay, isoWeekday, localDay, mondayOf, parseIsoDay } from './day';

const anyDay = fc.integer({ min: -20_000, max: 80_000 }).map(asDay);

test('day 0 is 1 January 1970, a Thursday', () => {
  expect(isoDay(asDay(0))).toBe('1970-01-01');
  expect(isoWeekday(asDay(0))).toBe(4);
});

test.each([
  ['2026-02-29', null],
  ['2024-02-29', 19782],
  ['2000-02-29', 11016],
  ['2100-02-29', null],
  ['2026-13-01', null],
  ['2026-1-1', null],
  ['26-01-01', null],
  ['2026-01-01T00:00', null],
])('%s is read as %p', (text, wanted) => {
  expect(parseIsoDay(text)).toBe(wanted);
});

test('writing a day and reading it gives the same day', () => {
  fc.assert(fc.property(anyDay, (day) => parseIsoDay(isoDay(day)) === day));
});

test('a day agrees with the calendar of the platform', () => {
  fc.assert(
    fc.property(anyDay, (day) => {
      const date = new Date(day * 86_400_000);
      expect(dayFromDate(date.getUTCFullYear(), date.getUTCMonth() + 1, date.getUTCDate())).toBe(day);
      expect(isoWeekday(day) % 7).toBe(date.getUTCDay());
    }),
  );
});

test('the Monday of a week is a Monday at most six days back', () => {
  fc.assert(
    fc.property(anyDay, (day) => {
      const monday = mondayOf(day);
      expect(isoWeekday(monday)).toBe(1);
      expect(day - monday).toBeGreaterThanOrEqual(0);
      expect(day - monday).toBeLessThan(7);
    }),
  );
});

test('only whole numbers are days', () => {
  expect(() => asDay(0.5)).toThrow(RangeError);
  expect(() => addDays(asDay(1), 0.5)).toThrow(RangeError);
});

test('the local day of an instant is the one on the wall', () => {
  const noon = new Date(2026, 8, 14, 12).getTime();
  const lateEvening = new Date(2026, 8, 14, 23, 59).getTime();
  expect(isoDay(localDay(noon))).toBe('2026-09-14');
  expect(isoDay(localDay(lateEvening))).toBe('2026-09-14');
});

test('a day begins by the time zone that is asked for', () => {
  const instant = Date.UTC(2026, 11, 1, 23, 30);
  expect(['Asia/Tokyo', 'UTC', 'America/Los_Angeles'].map((zone) => isoDay(localDay(instant, zone)))).toEqual(
    ['2026-12-02', '2026-12-01', '2026-12-01'],
  );
  expect(() => localDay(instant, 'Nowhere/Town')).toThrow(RangeError);
});
