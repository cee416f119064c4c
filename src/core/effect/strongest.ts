/* The strongest of several measures: a maximum of standardised effects, and the cut that placebo windows pass one time in ten. */

import { VERDICT_MEASURES, type VerdictMeasure } from '../measures/registry';
import { quantileOf } from './criticalValue';

/** The measure furthest from nought, in critical values; `up` says whether that is for the better. */
export type Strongest = {
  readonly measure: VerdictMeasure;
  readonly strength: number;
  readonly up: boolean;
  /** Whether clicks went the same way: what moved and brought the opposite of what it should is not called. */
  readonly agrees: boolean;
};

/**
 * The strongest of the measures by `sizeOf` (an effect in critical values, NaN where absent); null where clicks are absent. A fall of
 * the number of rank is a rise.
 *
 * @example strongest((measure) => ({ appeal: 1.4, showings: -0.2, rank: 0.1, clicks: 0.9 })[measure]).measure // "appeal"
 */
export function strongest(sizeOf: (measure: VerdictMeasure) => number): Strongest | null {
  const clicks = sizeOf('clicks');
  if (clicks !== clicks) return null;
  let [measure, size]: [VerdictMeasure, number] = ['clicks', clicks];
  for (const other of VERDICT_MEASURES) {
    const own = other === 'rank' ? -sizeOf(other) : sizeOf(other);
    if (Math.abs(own) > Math.abs(size)) [measure, size] = [other, own];
  }
  return { measure, strength: Math.abs(size), up: size > 0, agrees: size * clicks > 0 };
}

/** The cut where nothing is known: about what the largest of four measures of which two make up a third exceeds one time in ten. */
const ASSUMED_CUT = 1.2;
const TRUSTED_WINDOWS = 30;

/** The windows that a cut is made from are those that everything else was learned from, so they look a little too regular. */
const WIDER = 1.02;

/** What one placebo window in ten exceeds, pulled toward what is assumed while there are few; `overlapping` tell as much as one. */
export function cutOf(strengths: readonly number[], overlapping: number): number {
  return WIDER * usualMost(strengths, overlapping, ASSUMED_CUT);
}

/** What one window in ten exceeds, as it was seen. */
export function usualMost(strengths: readonly number[], overlapping: number, assumed: number): number {
  if (strengths.length === 0) return assumed;
  const apart = strengths.length / overlapping;
  const own = apart / (apart + TRUSTED_WINDOWS);
  return own * quantileOf(strengths, 0.9) + (1 - own) * assumed;
}
