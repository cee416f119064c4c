import { METRICS } from '../../core/model/change';
import { runSeed } from './run';
import { score } from './score';
import { simulateSite } from './simulate';

const WORLD = { pages: 60, days: 480, changes: 24, windowDays: 28, settlingDays: 7 };
const outcomes = [301, 302, 303, 304, 305, 306].flatMap((seed) => runSeed({ ...WORLD, seed }));

// Few sites, so wide bounds: the table of docs/calibration.md is made from hundreds of them.
test.each(METRICS)('on simulated sites, readings of %s do far better than the naive comparison', (metric) => {
  const of = outcomes.filter((o) => o.metric === metric);
  const [ours, naive] = [score(of, (o) => o.ours), score(of, (o) => o.naive)];
  expect(ours.held).toBeGreaterThan(0.82);
  expect(ours.held).toBeGreaterThan(naive.held);
  expect(Math.max(ours.falseAtRandom, ours.falseAfterDip)).toBeLessThan(0.25);
  expect(ours.wrongSign).toBeLessThan(0.06);
  expect(ours.error).toBeLessThan(naive.error);
});

test('the same seed gives the same site, another seed another', () => {
  const world = { ...WORLD, pages: 5, days: 260, changes: 2 };
  const clicks = (seed: number) => [...simulateSite({ ...world, seed }).pages[0]!.clicks];
  expect(clicks(9)).toEqual(clicks(9));
  expect(clicks(9)).not.toEqual(clicks(10));
});
