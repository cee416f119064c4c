/* The null distribution of net effects and the critical values, estimated from placebo windows. */

import type { Day } from '../calendar/day';
import type { Measure } from '../measures/registry';
import { byComponent, COMPONENTS, componentsOf, type Component } from '../measures/registry';
import { criticalValueOf } from './criticalValue';
import type { Control } from './control';
import { byMeasure } from '../measures/registry';
import type { FittedPanel } from './fittedPanel';
import type { Horizon } from './kriging';
import { overlappingWindows, placeboDays, placeboWindows, type PlaceboWindows } from './placeboWindows';
import { cutOf, maxStatistic } from './maxStatistic';

/** What is learned of one component. */
export type ComponentNull = {
  readonly between: number;
  readonly tracking: number | null;
  /** What the control rows did, window by window. */
  readonly pools: readonly Control[];
  /** By how much of itself the variance of a move grows for each unit of strain before it. */
  readonly perStrain: number;
  /** Variance beyond counting of each row, as a ratio to the site’s, shrunk toward 1. */
  readonly scale: Float64Array;
};

/** What is learned of one measure. */
export type MeasureNull = {
  /** Critical value: half-width of the 90% interval in standard errors. */
  readonly criticalValue: number;
  /** Correlation of the errors of its two components; 0 where it is made of one. */
  readonly correlation: number;
  /**
   * Net moves of placebo windows, by `column * rows + row`; NaN if the row was changed or is
   * absent.
   */
  readonly nets: Float32Array;
};

/** The null distribution of a site over one horizon. */
export type NullDistribution = {
  readonly horizon: Horizon;
  /** The days at which placebo windows begin, the newest first. */
  readonly days: readonly Day[];
  readonly rows: number;
  /** Windows a week apart overlap; so many of them tell as much as one that stands alone. */
  readonly overlapping: number;
  readonly components: Readonly<Record<Component, ComponentNull>>;
  readonly measures: Readonly<Record<Measure, MeasureNull>>;
  /** Critical value of the max statistic: exceeded by one placebo window in ten. */
  readonly cut: number;
};

const PRIOR_WINDOWS = 12;
const ASSUMED_PER_STRAIN = 0.05;
const MOST_PER_STRAIN = 0.4;
/** Independent windows that a row needs for its own swing to count as much as the site's. */
const SHRINKAGE_WINDOWS = 20;
const [LEAST_SCALE, MOST_SCALE] = [0.35, 6];
/** Products are clipped to this for correlations, so that one window cannot dominate. */
const MOST_PRODUCT = 9;
/** Windows with more counting noise than this say little of how heavy the tails are. */
const MOST_NOISE = 0.3;

/** Estimates the null distribution of a horizon from unchanged rows at past days, step by step. */
export function* learnSwing(ground: FittedPanel, horizon: Horizon): Generator<void, NullDistribution> {
  const days = placeboDays(ground, horizon);
  const overlapping = overlappingWindows(horizon);
  const all: Partial<Record<Component, PlaceboWindows>> = {};
  for (const component of COMPONENTS)
    all[component] = yield* placeboWindows(ground, component, horizon, days);
  const learned = byComponent((component) => {
    const windows = all[component]!;
    return { windows, ...componentNull(windows, overlapping) };
  });
  const variances = byComponent((component) => {
    const { windows, swing } = learned[component];
    return windows.net.map((_, at) => windowVariance(windows, swing, at));
  });
  const sizes = byMeasure(() => new Float32Array(0));
  const measures = byMeasure((measure): MeasureNull => {
    const parts = componentsOf(measure);
    const [first, second] = parts.map((part) => ({
      nets: learned[part].windows.net,
      variance: variances[part],
    }));
    const correlation = second ? correlationOf(first!, second, overlapping) : 0;
    const nets = second ? first!.nets.map((net, at) => net + second.nets[at]!) : first!.nets;
    sizes[measure] = nets.map(
      (net, at) =>
        net / Math.sqrt(varianceOfBoth(first!.variance[at]!, second ? second.variance[at]! : 0, correlation)),
    );
    const { noise } = learned[parts[0]!].windows;
    const telling = [...sizes[measure]].filter((size, at) => size === size && noise[at]! < MOST_NOISE);
    return { nets, correlation, criticalValue: criticalValueOf(telling.map(Math.abs), overlapping) };
  });
  const strengths: number[] = [];
  for (let at = 0; at < sizes.clicks.length; at++) {
    const top = maxStatistic((measure) => sizes[measure][at]! / measures[measure].criticalValue);
    if (top) strengths.push(top.agrees ? top.strength : 0);
  }
  return {
    ...{ horizon, days, rows: ground.rows.history.rows, overlapping, measures },
    components: byComponent((component) => learned[component].swing),
    cut: cutOf(strengths, overlapping),
  };
}

function componentNull(windows: PlaceboWindows, overlapping: number): { swing: ComponentNull } {
  const perStrain = slopeOfStrain(windows, overlapping);
  const { between, tracking, pools } = windows;
  return { swing: { between, tracking, pools, perStrain, scale: scalesOf(windows, perStrain, overlapping) } };
}

/** The excess of squared moves over their variance, regressed on strain. */
function slopeOfStrain({ net, variance, noise, strain }: PlaceboWindows, overlapping: number): number {
  let [sum, weights, count] = [0, 0, 0];
  for (let at = 0; at < net.length; at++) {
    if (net[at] !== net[at]) continue;
    // Where counting is most of the noise little is told of the rest.
    const telling = (variance[at]! / (variance[at]! + noise[at]!)) ** 2;
    const excess = Math.min(15, (net[at]! ** 2 - noise[at]!) / variance[at]! - 1);
    sum += telling * strain[at]! * excess;
    weights += telling * strain[at]! ** 2;
    count += 1;
  }
  const apart = count / overlapping;
  const own = apart / (apart + PRIOR_WINDOWS);
  const slope = own * (weights > 0 ? sum / weights : 0) + (1 - own) * ASSUMED_PER_STRAIN;
  return Math.min(MOST_PER_STRAIN, Math.max(0, slope));
}

function scalesOf(windows: PlaceboWindows, perStrain: number, overlapping: number): Float64Array {
  const { net, variance, noise, strain, rows, columns } = windows;
  return Float64Array.from({ length: rows }, (_, row) => {
    let [sum, weights] = [0, 0];
    for (let column = 0; column < columns; column++) {
      const at = column * rows + row;
      if (net[at] !== net[at]) continue;
      const expected = strained(variance[at]!, strain[at]!, perStrain);
      const telling = (expected / (expected + noise[at]!)) ** 2;
      sum += (telling * (net[at]! ** 2 - noise[at]!)) / expected;
      weights += telling;
    }
    const scale = (sum / overlapping + SHRINKAGE_WINDOWS) / (weights / overlapping + SHRINKAGE_WINDOWS);
    return Math.min(MOST_SCALE, Math.max(LEAST_SCALE, scale));
  });
}

function windowVariance(windows: PlaceboWindows, { perStrain, scale }: ComponentNull, at: number): number {
  const { variance, strain, noise, rows } = windows;
  return strained(variance[at]!, strain[at]!, perStrain) * scale[at % rows]! + noise[at]!;
}

/**
 * The variance of a move where such strain before it makes it less sure.
 * @example strained(0.05, 3, 0.1) // 0.065
 */
export function strained(variance: number, strain: number, perStrain: number): number {
  return variance * Math.max(0.7, 1 + perStrain * strain);
}

type Part = { readonly nets: Float32Array; readonly variance: Float32Array };

function correlationOf(a: Part, b: Part, overlapping: number): number {
  let [sum, count] = [0, 0];
  for (let at = 0; at < a.nets.length; at++) {
    const product = (a.nets[at]! * b.nets[at]!) / Math.sqrt(a.variance[at]! * b.variance[at]!);
    if (product !== product) continue;
    sum += Math.max(-MOST_PRODUCT, Math.min(MOST_PRODUCT, product));
    count += 1;
  }
  const apart = count / overlapping;
  const own = count > 0 ? ((sum / count) * apart) / (apart + PRIOR_WINDOWS) : 0;
  return Math.max(-0.5, Math.min(0.5, own));
}

/**
 * The variance of a sum of two whose errors go together in part.
 * @example varianceOfBoth(0.04, 0.01, 0) // 0.05
 */
export function varianceOfBoth(a: number, b: number, correlation: number): number {
  return a + b + 2 * correlation * Math.sqrt(a * b);
}
