import { randomLcg, randomPoisson } from 'd3-random';
import type { Day } from '../calendar/day';
import { expectedOfOthers, levelShifts, sharedMove, usualWander } from './levelShifts';

const DAYS = 300;
const poisson = randomPoisson.source(randomLcg(0.4));
const row = (mean: number, from = DAYS, factor = 1) =>
  Float64Array.from({ length: DAYS }, (_, day) =>
    poisson(mean * (1 + 0.3 * Math.sin(day / 40)) * (day >= from ? factor : 1))(),
  );

test('a step that only one page took is found near its day, and what all took is not', () => {
  const clicks = [row(40, 150, 0.6), ...Array.from({ length: 12 }, () => row(30))];
  const expected = expectedOfOthers(clicks);
  const rows = clicks.map((own, i) => ({ firstDay: 1000 as Day, clicks: own, expected: expected[i]! }));
  const wander = usualWander(rows);
  const [found, ...others] = levelShifts(rows[0]!, wander);
  expect(others).toEqual([]);
  expect(Math.abs(found!.day - 1150)).toBeLessThanOrEqual(3);
  expect(found!.firstDay).toBeLessThanOrEqual(1150);
  expect(found!.lastDay).toBeGreaterThanOrEqual(1150);
  expect(found!.ratio).toBeCloseTo(0.6, 1);
  expect(found!.local).toBeLessThan(0.75);
  expect(rows.slice(1).flatMap((one) => levelShifts(one, wander))).toEqual([]);
});

test('of next to no clicks nothing is told', () => {
  const none = {
    firstDay: 0 as Day,
    clicks: new Float64Array(DAYS),
    expected: new Float64Array(DAYS).fill(1),
  };
  expect(levelShifts(none, 0.01)).toEqual([]);
});

test('pages that come later are no rise of the others', () => {
  const flat = (from = 0) => Float64Array.from({ length: 100 }, (_, day) => (day >= from ? 10 : 0));
  const expected = expectedOfOthers([flat(), flat(), flat(50), flat(50)]);
  for (const day of [0, 49, 50, 99]) expect(expected[0]![day]).toBeCloseTo(10, 6);
  expect([expected[2]![49], expected[2]![50]]).toEqual([0, expect.closeTo(10, 6)]);
});

test('what a part did at a day is told beside the rest of the site, where it is plain', () => {
  const rest = Array.from({ length: 6 }, () => row(30));
  const part = Array.from({ length: 4 }, () => row(30, 150, 0.6));
  expect(sharedMove(part, rest, 150)).toBeCloseTo(0.6, 1);
  expect(sharedMove(rest.slice(3), rest.slice(0, 3), 150)).toBeNull();
  expect([sharedMove([], rest, 150), sharedMove(part, [], 150)]).toEqual([null, null]);
});
