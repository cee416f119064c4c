/* Power: the minimum detectable effect of a span, and how long to wait for a given one. */

import type { Metric } from '../measures/registry';
import { Z_POWER80 } from '../statistics/normal';

/** What a page could show in spans of so many days, with 80% power. */
export type Showable = {
  readonly windowDays: number;
  /** The smallest rise as a ratio (1.2: a fifth more); for position the ratio of positions, before / after. */
  readonly ratio: number;
};

/** Spans for which it is worked out how much a page could show. */
export const WAIT_DAYS = [7, 14, 28, 56, 84, 112] as const;

/**
 * The smallest rise, as a ratio, that would be found 80 times in a hundred by a 90% interval of half-width
 * `criticalValue` standard errors.
 *
 * @example minimumDetectableRatio(0.1, 1.645) // 1.282: e to the power of 0.1 × (1.645 + 0.842)
 */
export function minimumDetectableRatio(standardError: number, criticalValue: number): number {
  return Math.exp((criticalValue + Z_POWER80) * standardError);
}

/**
 * The ratio that an expectation of `amount` amounts to: a share for counts and CTR, places for position, for which the
 * position now has to be known. A fall by a share is as far from zero as the rise that would undo it.
 *
 * @example expectedRatio('clicks', 'down', 0.5, null) // 2
 * @example expectedRatio('position', 'up', 2, 6) // 1.5: from 6 to 4
 */
export function expectedRatio(
  metric: Metric,
  direction: 'up' | 'down',
  amount: number,
  positionNow: number | null,
): number | null {
  if (metric !== 'position')
    return direction === 'up' ? 1 + amount : amount < 1 ? 1 / (1 - amount) : Infinity;
  if (positionNow === null) return null;
  return direction === 'up'
    ? positionNow / Math.max(1, positionNow - amount)
    : (positionNow + amount) / positionNow;
}

/** A longer wait pays only if it brings the smallest visible effect down by more than this share. */
const WORTH_WAITING = 0.1;

/**
 * The shortest span whose smallest visible effect is within a tenth of what the best span could show.
 * @throws RangeError where there is no span
 * @example worthWaiting([{ windowDays: 28, ratio: 1.32 }, { windowDays: 112, ratio: 1.31 }]).windowDays // 28
 */
export function worthWaiting(showable: readonly Showable[]): Showable {
  const best = Math.min(...showable.map(({ ratio }) => ratio - 1));
  const enough = [...showable]
    .sort((a, b) => a.windowDays - b.windowDays)
    .find(({ ratio }) => ratio - 1 <= best * (1 + WORTH_WAITING));
  if (!enough) throw new RangeError('There is no span to choose from.');
  return enough;
}

/** The fewest days in which an effect of `ratio` would be found; null where none of the spans is enough.
 *  @example daysNeeded([{ windowDays: 7, ratio: 1.5 }, { windowDays: 28, ratio: 1.2 }], 1.25) // 28 */
export function daysNeeded(showable: readonly Showable[], ratio: number): number | null {
  return showable.find((one) => one.ratio <= ratio)?.windowDays ?? null;
}
