/* Estimates on the log scale and, at the edge, what is reported of them. */

import { Z90 } from '../statistics/normal';
import { byMeasure, isInPlaces, type Measure, type MeasureInPlaces } from '../measures/registry';

/** An interval estimate on the log scale. */
export type LogEffect = { readonly net: number; readonly low: number; readonly high: number };

/**
 * An estimate on the log scale with its 90% interval of `critical` standard errors to either side.
 * `shared` is the variance added by the control, which estimates of the same days share.
 */
export type Estimate = LogEffect & {
  readonly standardError: number;
  readonly critical: number;
  readonly shared: number;
};

/**
 * An estimate with its interval.
 *
 * @example estimateOf(0.2, 0.1, 1.7) // { net: 0.2, low: 0.03, high: 0.37, standardError: 0.1, … }
 */
export function estimateOf(net: number, standardError: number, critical: number, shared = 0): Estimate {
  const half = critical * standardError;
  return { net, low: net - half, high: net + half, standardError, critical, shared };
}

/**
 * Variance of the normal distribution whose central 90% is the interval of an effect.
 *
 * @example varianceOf(estimateOf(0.2, 0.1, 1.645)) // 0.01
 */
export function varianceOf({ low, high }: LogEffect): number {
  return ((high - low) / 2 / Z90) ** 2;
}

/**
 * Variance of an estimate without the part the control added, on the scale of `varianceOf`. Rows
 * with the same control share that part.
 *
 * @example ownVariance(estimateOf(0.2, 0.1, 1.645, 0.002)) // 0.008
 */
export const ownVariance = (estimate: Estimate): number =>
  ownPart(varianceOf(estimate), sharedVariance(estimate));

/**
 * A variance without the part the control added, at least a quarter of it.
 *
 * @example ownPart(0.01, 0.002) // 0.008
 */
export const ownPart = (variance: number, shared: number): number =>
  Math.max(variance / 4, variance - shared);

/**
 * The variance that the control brought into an estimate, as its interval stands for it.
 * @example sharedVariance(estimateOf(0.2, 0.1, 1.645, 0.002)) // 0.002
 */
export function sharedVariance({ shared, critical }: Estimate): number {
  return (critical / Z90) ** 2 * shared;
}

/** A net effect as a ratio (1.24: 24% above what unchanged pages predict) with its 90% interval. */
export type RatioEffect = { readonly ratio: number; readonly low: number; readonly high: number };

/** A net effect in places; a gain is positive although the number of the position falls. */
export type PlacesEffect = { readonly placesGained: number; readonly low: number; readonly high: number };

/** Net effects on all measures; null where a measure is absent on a side. */
export type Net = {
  readonly [M in Measure]: (M extends MeasureInPlaces ? PlacesEffect : RatioEffect) | null;
};

export type Estimates = Readonly<Record<Measure, Estimate | null>>;

/**
 * Net effects in the units they are reported in.
 *
 * @param positionAfter the position of the after span, from which places are counted
 * @example asNet({ ...none, clicks: estimateOf(0, 0.1, 1) }, null).clicks // { ratio: 1, low:
 *   0.905, … }
 */
export function asNet(effects: Estimates, positionAfter: number | null): Net {
  return byMeasure((measure) => {
    const effect = effects[measure];
    if (isInPlaces(measure)) return effect && positionAfter !== null ? asPlaces(effect, positionAfter) : null;
    return effect && asRatio(effect);
  }) as Net;
}

const asRatio = ({ net, low, high }: LogEffect): RatioEffect => ({
  ratio: Math.exp(net),
  low: Math.exp(low),
  high: Math.exp(high),
});

/**
 * Places gained from a log ratio of positions: without the change the page would be at after /
 * ratio.
 */
function asPlaces({ net, low, high }: LogEffect, after: number): PlacesEffect {
  const gained = (log: number) => after * (Math.exp(-log) - 1);
  return { placesGained: gained(net), low: gained(high), high: gained(low) };
}

/**
 * A log effect with its sign turned so that up is better, for position too.
 *
 * @example turned('position', { net: 0.1, low: -0.2, high: 0.4 }) // { net: -0.1, low: -0.4, high:
 *   0.2 }
 */
export function turned(measure: Measure, { net, low, high }: LogEffect): LogEffect {
  return isInPlaces(measure) ? { net: -net, low: -high, high: -low } : { net, low, high };
}
