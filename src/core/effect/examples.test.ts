import { asDay } from '../calendar/day';
import { byComponent } from './components';
import { criticalValueOf } from './criticalValue';
import { asNet, byMetric, turned } from './effect';
import { effectSpans, emptyLogRatios } from './logRatios';
import { choosePanel } from './panel';
import { daysNeeded, expectedRatio, minimumDetectableRatio } from './power';
import { regressionToMean, strain, strained } from './regressionToMean';
import { coupled, withExtra } from './swing';
import { markOf } from './verdict';
import { ownShare } from './yardstick';

/* The examples of the engine's doc comments, which a person can check by hand, as they stand there. */

const MOMENTS = {
  move: 0.04,
  dip: 0.04,
  preTrend: 0.01,
  moveWithDip: -0.01,
  moveWithPreTrend: 0,
  dipWithPreTrend: 0,
};

test('components and critical value', () => {
  expect(byComponent((name) => name.length)).toEqual({ impressions: 11, ctr: 3, position: 8 });
  expect(criticalValueOf([], 1)).toBeCloseTo(1.645 * 1.05, 3);
});

test('regression to the mean and strain', () => {
  const nothingKnown = { before: 0.01, after: 0.01, long: null, preTrend: null };
  const { dipShare, preTrendShare, variance } = regressionToMean(MOMENTS, nothingKnown);
  expect([dipShare + 0, preTrendShare + 0]).toEqual([0, 0]);
  expect(variance).toBeCloseTo(0.06, 12);
  const noise = { before: 0.005, after: 0, long: 0.005, preTrend: null };
  expect(strain({ ...MOMENTS, dip: 0.03 }, noise, 0.4)).toBeCloseTo(3, 12);
  expect(strained(0.05, 3, 0.1)).toBeCloseTo(0.065, 12);
});

test('spans, log ratios and panel', () => {
  const { before, after, long } = effectSpans(asDay(1000), 28, 7);
  expect([before, after, long]).toEqual([
    { firstDay: 972, lastDay: 999 },
    { firstDay: 1007, lastDay: 1034 },
    { firstDay: 860, lastDay: 971 },
  ]);
  expect(emptyLogRatios(3).clicks.move).toHaveLength(3);
  const page = { firstDay: asDay(0), clicks: [1], impressions: [1], positionSum: [1], positionWeight: [1] };
  const tenPages = Array.from({ length: 10 }, (_, id) => ({ id, ...page }));
  expect(choosePanel(tenPages, new Set()).yardstick).toBe(10);
});

test('pools and variances', () => {
  expect(ownShare(100, 0.01)).toBe(0.5);
  expect(coupled(0.04, -0.03)).toBe(0.02);
  expect(withExtra(0.03, 0.01)).toBe(0.04);
});

test('marks and what is reported', () => {
  const effect = { net: 0.2, low: 0.05, high: 0.35 };
  expect([markOf('clicks', effect), markOf('position', effect)]).toEqual(['lifted', 'dropped']);
  expect(turned('position', { net: 0.1, low: -0.2, high: 0.4 })).toEqual({ net: -0.1, low: -0.4, high: 0.2 });
  const log = { clicks: { net: 0, low: -0.1, high: 0.1 }, impressions: null, ctr: null, position: null };
  const { clicks } = asNet(log, null);
  expect([clicks!.ratio, clicks!.low.toFixed(3), clicks!.high.toFixed(3)]).toEqual([1, '0.905', '1.105']);
  expect(byMetric((name) => name.length).ctr).toBe(3);
});

test('power', () => {
  expect(minimumDetectableRatio(0.1, 1.645)).toBeCloseTo(1.282, 3);
  const showable = [
    { windowDays: 7, ratio: 1.5 },
    { windowDays: 28, ratio: 1.2 },
  ];
  expect(daysNeeded(showable, 1.25)).toBe(28);
  expect(expectedRatio('clicks', 'down', 0.5, null)).toBe(2);
  expect(expectedRatio('position', 'up', 2, 6)).toBe(1.5);
});
