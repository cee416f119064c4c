import { asDay } from '../calendar/day';
import { byComponent } from '../measures/registry';
import { ownShare } from './control';
import { criticalValueOf, quantileOf } from './criticalValue';
import { asNet, estimateOf, turned } from './effect';
import { byMeasure, byMetric } from '../measures/registry';
import { emptyInnovations, logRate } from './forecast';
import { controlSample } from './panel';
import { daysNeeded, expectedRatio, minimumDetectableRatio } from './power';
import { maxStatistic } from './maxStatistic';
import { strained, varianceOfBoth } from './nullDistribution';
import { markOf } from './verdict';

/* The examples of the engine's doc comments, which a person can check by hand, as they stand there. */

test('components and critical value', () => {
  expect(byComponent((name) => name.length).ctr).toBe(3);
  expect(byMeasure((name) => name.length).ctr).toBe(3);
  expect(criticalValueOf([], 1)).toBeCloseTo(1.678, 3);
  expect(quantileOf([3, 1, 2], 0.5)).toBe(2);
});

test('innovations, control and variances', () => {
  expect([...emptyInnovations(2).move]).toEqual([NaN, NaN]);
  expect(logRate(12, 10)).toBeCloseTo(0.174, 3);
  expect(ownShare(100, 0.01)).toBe(0.5);
  expect(strained(0.05, 3, 0.1)).toBeCloseTo(0.065, 12);
  expect(varianceOfBoth(0.04, 0.01, 0)).toBeCloseTo(0.05, 12);
  const page = { firstDay: asDay(0), clicks: [1], impressions: [1], positionSum: [1], positionWeight: [1] };
  const tenPages = Array.from({ length: 10 }, (_, id) => ({ id, ...page }));
  expect(controlSample(tenPages, () => 0).size).toBe(10);
});

test('what moved most', () => {
  const sizes = { appeal: 1.4, showings: -0.2, rank: 0.1, clicks: 0.9 };
  expect(maxStatistic((measure) => sizes[measure])!.measure).toBe('appeal');
  expect(estimateOf(0.2, 0.1, 1.7)).toEqual({
    ...{ net: 0.2, standardError: 0.1, critical: 1.7, shared: 0 },
    ...{ low: expect.closeTo(0.03, 12), high: expect.closeTo(0.37, 12) },
  });
});

test('marks and what is reported', () => {
  const effect = { net: 0.2, low: 0.05, high: 0.35 };
  expect([markOf('clicks', effect), markOf('position', effect)]).toEqual(['lifted', 'dropped']);
  expect(turned('position', { net: 0.1, low: -0.2, high: 0.4 })).toEqual({ net: -0.1, low: -0.4, high: 0.2 });
  const log = byMeasure((measure) => (measure === 'clicks' ? estimateOf(0, 0.1, 1) : null));
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
