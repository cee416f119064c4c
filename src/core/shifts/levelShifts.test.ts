import { randomLcg, randomPoisson } from 'd3-random';
import type { Day } from '../calendar/day';
import { expectedOfOthers, levelShifts, usualWander } from './levelShifts';

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
