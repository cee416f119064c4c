import { MEASURES } from '../../core/measures/registry';
import { runSeed } from './run';
import { score, scoreVerdicts } from './score';
import { simulateSite } from './simulate';

const WORLD = { pages: 60, days: 480, changes: 24, windowDays: 28, settlingDays: 7 };
const SEEDS = Array.from({ length: 16 }, (_, i) => 501 + i);
const outcomes = SEEDS.flatMap((seed) => runSeed({ ...WORLD, seed })).filter(({ fewest }) => fewest >= 20);

/** Three standard errors of a share that is expected to be `share` among `n`. */
const slack = (share: number, n: number) => 3 * Math.sqrt((share * (1 - share)) / n);
const untouched = outcomes.filter(({ kind }) => kind === 'none').length;
const WRONG_SIGN = 0.01 + slack(0.01, outcomes.length - untouched);

// The tables of docs/calibration.md are made from hundreds of sites. On these few, a share may miss its
// nominal value by three standard errors.
test.each(MEASURES)('on simulated sites, 90% ranges of %s hold the truth as often as they say', (measure) => {
  const ours = score(outcomes, measure, (one) => one.ours);
  const naive = score(outcomes, measure, (one) => one.naive);
  expect(ours.changes).toBeGreaterThan(250);
  expect(Math.abs(ours.held - 0.9)).toBeLessThan(slack(0.9, ours.changes));
  expect(ours.held).toBeGreaterThan(naive.held + 0.1);
  expect((ours.falseAtRandom + ours.falseAfterDip) / 2).toBeLessThan(0.1 + slack(0.1, untouched));
  expect(ours.wrongSign).toBeLessThan(WRONG_SIGN);
  expect(ours.error).toBeLessThan(0.9 * naive.error);
  expect(Math.abs(ours.dipBias)).toBeLessThan(0.05);
});

test('the verdict by what moved finds more than clicks alone, and daily looks call few untouched pages', () => {
  const verdicts = scoreVerdicts(outcomes);
  const clicks = score(outcomes, 'clicks', (one) => one.ours);
  expect(verdicts.foundLarge).toBeGreaterThan(clicks.foundLarge + 0.1);
  expect((verdicts.falseAtRandom + verdicts.falseAfterDip) / 2).toBeLessThan(0.1 + slack(0.1, untouched));
  expect(verdicts.earlyFalse).toBeLessThan(0.11);
  expect(verdicts.wrongSign).toBeLessThan(WRONG_SIGN);
});

test('the same seed gives the same site, another seed another', () => {
  const world = { ...WORLD, pages: 5, days: 260, changes: 2 };
  const clicks = (seed: number) => [...simulateSite({ ...world, seed }).pages[0]!.clicks];
  expect(clicks(9)).toEqual(clicks(9));
  expect(clicks(9)).not.toEqual(clicks(10));
});
