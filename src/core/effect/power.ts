/* Power: the minimum detectable effect of a span, and how long to wait for a given one. */

import type { Metric } from '../measures/registry';
import { Z_POWER80 } from '../statistics/normal';

/** What a page could show in spans of so many days, with 80% power. */
export type Showable = {
  readonly windowDays: number;
  /** Smallest detectable rise, as a ratio (1.2: a fifth more); of position, before / after. */
  readonly ratio: number;
};

/** Spans for which it is worked out how much a page could show. */
export const WAIT_DAYS = [7, 14, 28, 56, 84, 112] as const;

/**
 * Smallest detectable rise at 80% power, as a ratio, for a 90% interval of `criticalValue` standard
 * errors.
 *
 * @example minimumDetectableRatio(0.1, 1.645) // 1.282: e to the power of 0.1 × (1.645 + 0.842)
 */
export function minimumDetectableRatio(standardError: number, criticalValue: number): number {
  return Math.exp((criticalValue + Z_POWER80) * standardError);
}

/**
 * An expected change as a ratio. `amount` is a share for counts and CTR, and places for position,
 * which needs the current position. A fall is as far from 1 as the rise that undoes it.
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

/** A longer span pays only if it lowers the smallest detectable effect by more than this share. */
const WORTH_WAITING = 0.1;

/**
 * The shortest span whose smallest detectable effect is within a tenth of the best span’s. Throws
 * RangeError if there is no span.
 *
 * @example worthWaiting([{ windowDays: 28, ratio: 1.32 }, { windowDays: 112, ratio: 1.31
 *   }]).windowDays
 * // 28
 */
export function worthWaiting(showable: readonly Showable[]): Showable {
  const best = Math.min(...showable.map(({ ratio }) => ratio - 1));
  const enough = [...showable]
    .sort((a, b) => a.windowDays - b.windowDays)
    .find(({ ratio }) => ratio - 1 <= best * (1 + WORTH_WAITING));
  if (!enough) throw new RangeError('There is no span to choose from.');
  return enough;
}

/**
 * The fewest days that would detect an effect of `ratio`; null if none of the spans does.
 *
 * @example daysNeeded([{ windowDays: 7, ratio: 1.5 }, { windowDays: 28, ratio: 1.2 }], 1.25) // 28
 */
export function daysNeeded(showable: readonly Showable[], ratio: number): number | null {
  return showable.find((one) => one.ratio <= ratio)?.windowDays ?? null;
}
