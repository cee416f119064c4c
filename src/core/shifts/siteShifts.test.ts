import { randomLcg, randomPoisson } from 'd3-random';
import { addDays, asDay } from '../calendar/day';
import { siteShifts } from './siteShifts';

const START = asDay(20_000);
const WEEKDAYS = [1, 1.1, 1.05, 1, 0.95, 0.7, 0.75];

/**
 * Clicks of a site whose season doubles and halves them, from one of several draws; multiplied by
 * `factor` from a day on.
 */
function site(seed: number, days: number, factor = 1, from = Infinity, clicks = 6000): number[] {
  const source = randomLcg(seed / 10);
  return Array.from({ length: days }, (_, day) => {
    const season =
      0.7 * Math.sin((2 * Math.PI * day) / 365 + seed) + 0.15 * Math.sin((4 * Math.PI * day) / 365);
    const mean = clicks * WEEKDAYS[day % 7]! * Math.exp(season) * (day >= from ? factor : 1);
    return randomPoisson.source(source)(mean)();
  });
}

const SEEDS = [1, 2, 3, 4, 5];

test('a smooth season gives no step: at most one in twenty sites shows one', () => {
  const steps = Array.from({ length: 40 }, (_, seed) => siteShifts(START, site(1 + seed / 4, 480)).length);
  expect(steps.reduce((sum, n) => sum + n, 0)).toBeLessThanOrEqual(2);
});

test('a fall of a tenth that stays is found within a week', () => {
  for (const seed of SEEDS) {
    const near = siteShifts(START, site(seed, 307, 0.9, 300)).filter(({ day }) => day > START + 290);
    expect(near.map(({ day }) => Math.abs(day - START - 300) <= 1)).toEqual([true]);
    expect(near[0]!.low).toBeLessThan(0.9);
    expect(near[0]!.high).toBeGreaterThan(0.9);
  }
});

test('an update that takes 13% is found on its day, and what came before it too', () => {
  for (const seed of SEEDS) {
    const clicks = site(seed, 480, 0.87, 320).map((n, day) => (day >= 120 ? n * 1.2 : n));
    const found = siteShifts(START, clicks);
    const [before, update] = [120, 320].map((day) =>
      found.find((one) => Math.abs(one.day - START - day) <= 3),
    );
    expect([before?.ratio, update?.ratio]).toEqual([expect.closeTo(1.2, 1), expect.closeTo(0.87, 1)]);
    expect(update!.firstDay).toBeLessThanOrEqual(START + 321);
    expect(update!.lastDay).toBeGreaterThanOrEqual(START + 319);
  }
});

test('about a noted event less evidence is enough', () => {
  const event = { firstDay: addDays(START, 298), lastDay: addDays(START, 301) };
  const found = (events: readonly (typeof event)[]) =>
    [...Array(12).keys()].filter((seed) =>
      siteShifts(START, site(seed + 1, 480, 0.93, 300, 500), events).some(
        ({ day, ratio }) => Math.abs(day - START - 300) <= 4 && ratio < 1,
      ),
    ).length;
  expect(found([event])).toBeGreaterThan(found([]));
});

test('days without figures are passed over, and a few days tell nothing', () => {
  const holes = site(1, 480, 0.85, 300).map((n, day) => (day % 31 === 5 ? null : n));
  expect(siteShifts(START, holes).map(({ day }) => Math.abs(day - START - 300) <= 3)).toEqual([true]);
  expect(siteShifts(START, site(1, 40))).toEqual([]);
  expect(siteShifts(START, [])).toEqual([]);
});
