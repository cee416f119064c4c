import fc from 'fast-check';
import { parseIsoDay, type Day } from '../calendar/day';
import {
  count,
  datedSpan,
  metricDifference,
  metricValue,
  percentChange,
  placesGained,
  plural,
  shortDay,
  spanText,
} from './format';

const day = (iso: string) => parseIsoDay(iso) as Day;

test.each([
  [metricValue('clicks', 18240), '18,240'],
  [metricValue('ctr', 0.0226), '2.26%'],
  [metricValue('position', 7.94), '7.9'],
  [metricValue('position', null), '–'],
  [metricDifference('clicks', 86), '+86'],
  [metricDifference('impressions', -930), '−930'],
  [metricDifference('ctr', 0.0062), '+0.62 pt'],
  [metricDifference('position', 0.3), '0.3 places up'],
  [metricDifference('position', -1), '1.0 place down'],
  [placesGained(0.04), 'level'],
  [percentChange(1.209), '+20.9%'],
  [percentChange(0.5), '−50.0%'],
  [percentChange(1), '0.0%'],
  [percentChange(0.99999), '0.0%'],
  [percentChange(21), '+2,000%'],
  [percentChange(null), '–'],
  [plural(1, 'day'), '1 day'],
  [plural(2000, 'day'), '2,000 days'],
  [shortDay(day('2026-09-04')), '4 Sep'],
  [spanText({ firstDay: day('2026-08-17'), lastDay: day('2026-09-13') }), '17 Aug – 13 Sep'],
  [spanText({ firstDay: day('2025-12-23'), lastDay: day('2026-01-03') }), '23 Dec 2025 – 3 Jan 2026'],
  [datedSpan({ firstDay: day('2026-10-06'), lastDay: day('2026-10-13') }), '6 Oct – 13 Oct 2026'],
  [datedSpan({ firstDay: day('2026-10-06'), lastDay: day('2026-10-06') }), '6 Oct 2026'],
])('%s', (written, wanted) => {
  expect(written).toBe(wanted);
});

test('the sign of a difference is never in doubt', () => {
  fc.assert(
    fc.property(fc.double({ min: -1e6, max: 1e6, noNaN: true }), (value) => {
      const text = metricDifference('clicks', value);
      if (Math.abs(value) < 0.5) expect(text).toBe('0');
      else expect(text.startsWith(value > 0 ? '+' : '−')).toBe(Math.abs(value) > 0.5);
    }),
  );
});

test('a count keeps its value', () => {
  fc.assert(fc.property(fc.integer(), (n) => Number(count(n).replaceAll(',', '').replace('−', '-')) === n));
});
