import type { Day } from '../calendar/day';
import { MEASURE_NAMES } from '../measures/registry';
import { longDay, plural, share } from '../words/format';
import type { Wait } from './readingModel';
import { finalOn } from './readable';

/** Whole days after a change that can be read on its review day; negative if there are none. */
export function daysByReview(
  day: Day,
  reviewDay: Day,
  settlingDays: number,
  provisionalDays: number,
): number {
  return reviewDay - finalOn((day + settlingDays - 1) as Day, provisionalDays);
}

/**
 * A sentence on whether pages could show the expected result by the review day; null if they have
 * too few figures.
 *
 * @param wait covers spans of `days`, among others
 */
export function foresight(wait: Wait | null, days: number, reviewDay: Day): string {
  const by = `By ${longDay(reviewDay)}`;
  if (days < 7) return `${by} not even a week of it can be read. Give it longer.`;
  const smallest = wait?.showable.find(({ windowDays }) => windowDays === days);
  if (!wait || !smallest) return 'There are too few figures of these pages to tell what they could show.';
  const metric = MEASURE_NAMES[wait.metric];
  const could = `${by}, with ${plural(days, 'day')} to read, these pages could show a difference of ${share(smallest.ratio - 1)} in ${metric}`;
  if (wait.expectedRatio === null) return `${could}; smaller ones are lost in their ordinary swing.`;
  const expected = share(wait.expectedRatio - 1);
  if (smallest.ratio <= wait.expectedRatio) return `${could}, so the ${expected} expected would be seen.`;
  return wait.daysNeeded === null
    ? `${could}, but not the ${expected} expected, however long it is given.`
    : `${could}, but not yet the ${expected} expected: that takes ${plural(wait.daysNeeded, 'day')}.`;
}
