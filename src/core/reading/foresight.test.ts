import { addDays } from '../calendar/day';
import { DAY } from '../../../tests/support/readingInput';
import { daysByReview, foresight } from './foresight';
import type { Wait } from './readingModel';
import { finalOn } from './readable';

const REVIEW = addDays(DAY, 40);
const wait = (over: Partial<Wait> = {}): Wait => ({
  metric: 'ctr',
  showable: [
    { windowDays: 28, ratio: 1.2 },
    { windowDays: 56, ratio: 1.1 },
  ],
  expectedRatio: 1.25,
  daysNeeded: 28,
  ...over,
});

test('the days that can be read by a review are those whose figures are final by then', () => {
  const days = daysByReview(DAY, REVIEW, 3, 3);
  const last = addDays(DAY, 3 + days - 1);
  expect(finalOn(last, 3)).toBe(REVIEW);
  expect(daysByReview(DAY, DAY, 3, 3)).toBeLessThan(0);
});

test.each<[string, Wait | null, number, RegExp]>([
  ['a plain yes', wait(), 28, /could show a difference of 20% in CTR, so the 25% expected would be seen\.$/],
  [
    'not yet',
    wait({ expectedRatio: 1.15, daysNeeded: 56 }),
    28,
    /but not yet the 15% expected: that takes 56 days\.$/,
  ],
  [
    'never',
    wait({ expectedRatio: 1.05, daysNeeded: null }),
    28,
    /but not the 5% expected, however long it is given\.$/,
  ],
  ['no amount', wait({ expectedRatio: null, daysNeeded: null }), 28, /smaller ones are lost/],
  ['too soon', null, 6, /not even a week/],
  ['too few figures', null, 28, /too few figures/],
])('%s', (_case, of, days, sentence) => {
  expect(foresight(of, days, REVIEW)).toMatch(sentence);
});
