import { estimateOf, type Estimates } from './effect';
import { byMeasure } from '../measures/registry';
import { cutOf, maxStatistic } from './maxStatistic';
import { movedMeasures } from './movedMeasures';

/** Estimates by their size in critical values of one, a hundredth each. */
const sized = (sizes: Partial<Record<string, number>>): Estimates =>
  byMeasure((measure) => estimateOf((sizes[measure] ?? 0) * 0.1, 0.1, 1));

test('the strongest measure gives the verdict if it passes the cut and clicks went its way', () => {
  const rise = sized({ appeal: 1.6, showings: 0.2, clicks: 0.9 });
  expect(movedMeasures(rise, 1.2, 'clicks')).toMatchObject({
    mark: 'lifted',
    judged: 'appeal',
    movedIn: 'appeal',
  });
  expect(movedMeasures(rise, 1.7, 'clicks')).toMatchObject({
    mark: 'unclear',
    judged: 'appeal',
    movedIn: null,
  });
  const against = sized({ appeal: 1.6, clicks: -0.9 });
  expect(movedMeasures(against, 1.2, 'clicks')).toMatchObject({ mark: 'unclear', movedIn: null });
});

test('a rank whose number falls is lifted', () => {
  const higher = sized({ rank: -2, clicks: 0.6 });
  expect(movedMeasures(higher, 1.2, 'clicks')).toMatchObject({ mark: 'lifted', movedIn: 'rank' });
});

test('changes about appeal lead with it where it passes, also if something else moved more', () => {
  const both = sized({ appeal: 1.3, showings: 2, clicks: 1.9 });
  expect(movedMeasures(both, 1.2, 'appeal').movedIn).toBe('appeal');
  expect(movedMeasures(both, 1.2, 'clicks').movedIn).toBe('showings');
  expect(movedMeasures(sized({}), 1.2, 'appeal').judged).toBe('appeal');
});

test('what plainly pulls against each other is said, and clicks decide', () => {
  const torn = sized({ appeal: 2, showings: -1.8, clicks: 0.3 });
  expect(movedMeasures(torn, 1.2, 'appeal')).toMatchObject({
    ...{ judged: 'clicks', movedIn: null },
    opposed: { up: 'appeal', down: 'showings' },
  });
});

test('what one range alone would call, but the four together do not, is what an open verdict is told by', () => {
  const near = sized({ appeal: -1.1, clicks: -0.2 });
  expect(movedMeasures(near, 1.2, 'clicks')).toEqual({
    ...{ mark: 'unclear', judged: 'appeal', movedIn: null, opposed: null },
  });
  // Also where clicks went the other way: no measure beside the verdict says more than the verdict.
  const against = sized({ appeal: 1.6, clicks: -0.1 });
  expect(movedMeasures(against, 1.2, 'clicks')).toMatchObject({ mark: 'unclear', judged: 'appeal' });
});

test('without clicks nothing is called; the cut is what one window in ten exceeds', () => {
  expect(maxStatistic(() => NaN)).toBeNull();
  const even = Array.from({ length: 4000 }, (_, i) => (i / 4000) * 2);
  expect(cutOf(even, 1)).toBeCloseTo(1.8 * 1.02, 1);
  expect(cutOf([], 8)).toBeCloseTo(1.2 * 1.02, 5);
});
