import { MEASURES } from '../../core/measures/registry';
import { runSeed } from './run';
import { score, scoreVerdicts } from './score';
import { simulateSite } from './simulate';

const WORLD = { pages: 60, days: 480, changes: 24, windowDays: 28, settlingDays: 7 };
const outcomes = [501, 502, 503, 504, 505]
  .flatMap((seed) => runSeed({ ...WORLD, seed }))
  .filter(({ fewest }) => fewest >= 20);

// Few sites, so wide bounds: the tables of docs/calibration.md are made from hundreds of them.
test.each(MEASURES)(
  'on simulated sites, readings of %s do far better than the naive comparison',
  (measure) => {
    const ours = score(outcomes, measure, (one) => one.ours);
    const naive = score(outcomes, measure, (one) => one.naive);
    expect(ours.held).toBeGreaterThan(0.8);
    expect(ours.held).toBeGreaterThan(naive.held);
    expect(Math.max(ours.falseAtRandom, ours.falseAfterDip)).toBeLessThan(0.27);
    expect(ours.wrongSign).toBeLessThan(0.06);
    expect(ours.error).toBeLessThan(naive.error);
  },
);

test('the verdict by what moved finds more than clicks alone, and daily looks call few untouched pages', () => {
  const verdicts = scoreVerdicts(outcomes);
  const clicks = score(outcomes, 'clicks', (one) => one.ours);
  expect(verdicts.foundLarge).toBeGreaterThan(clicks.foundLarge + 0.1);
  expect(Math.max(verdicts.falseAtRandom, verdicts.falseAfterDip)).toBeLessThan(0.25);
  expect(verdicts.earlyFalse).toBeLessThan(0.2);
  expect(verdicts.wrongSign).toBeLessThan(0.06);
});

test('the same seed gives the same site, another seed another', () => {
  const world = { ...WORLD, pages: 5, days: 260, changes: 2 };
  const clicks = (seed: number) => [...simulateSite({ ...world, seed }).pages[0]!.clicks];
  expect(clicks(9)).toEqual(clicks(9));
  expect(clicks(9)).not.toEqual(clicks(10));
});
