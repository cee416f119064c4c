/* The mark of an estimate: what its interval excludes. */

import type { Measure } from '../measures/registry';
import { turned, type LogEffect } from './effect';

/** What can be said of one metric. `held` is shown to be about level; `unclear` could be either. */
export type Mark = 'lifted' | 'dropped' | 'held' | 'unclear';

/** Within this, as a share, a metric counts as level (docs/method.md, 7). */
export const HELD_WITHIN = 0.1;
const HELD_LOG = Math.log(1 + HELD_WITHIN);

/**
 * The verdict on a measure from its 90% interval: lifted or dropped if it excludes no effect, held
 * if it lies inside ±10%, otherwise unclear. For position, a lower number is a lift.
 *
 * @example markOf('clicks', { net: 0.2, low: 0.05, high: 0.35 }) // "lifted"
 * @example markOf('position', { net: 0.2, low: 0.05, high: 0.35 }) // "dropped": further down
 */
export function markOf(measure: Measure, effect: LogEffect): Mark {
  const { low, high } = turned(measure, effect);
  if (low > 0) return 'lifted';
  if (high < 0) return 'dropped';
  return low >= -HELD_LOG && high <= HELD_LOG ? 'held' : 'unclear';
}
