import fc from 'fast-check';
import { asDay, mondayOf } from '../calendar/day';
import { tallyStrokes } from './strokes';

// Day 20,712 is a Wednesday.
const at = (...days: number[]) =>
  tallyStrokes(days.map((n) => ({ day: asDay(n) }))).map((stroke) => stroke.crossing);

test('the fifth change of a week crosses the four before it', () => {
  expect(at(20_712, 20_712, 20_713, 20_714, 20_715)).toEqual([false, false, false, false, true]);
});

test('a new week begins a new tally', () => {
  expect(at(20_712, 20_713, 20_714, 20_715, 20_720)).toEqual([false, false, false, false, false]);
});

test('in each week every fifth stroke crosses, and no stroke is lost', () => {
  const days = fc.array(fc.integer({ min: 20_000, max: 20_060 }).map((n) => ({ day: asDay(n) })));
  fc.assert(
    fc.property(days, (items) => {
      const strokes = tallyStrokes(items);
      expect(strokes).toHaveLength(items.length);
      const inWeek = new Map<number, number>();
      for (const { day, crossing } of strokes) {
        const n = (inWeek.get(mondayOf(day)) ?? 0) + 1;
        inWeek.set(mondayOf(day), n);
        expect(crossing).toBe(n % 5 === 0);
      }
    }),
  );
});
