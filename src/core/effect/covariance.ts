/*
 * Covariance of a row about its level: a nested exponential model fitted to the empirical
 * semivariogram by non-negative least squares.
 */

import { fcnnlsVector } from 'ml-fcnnls';
import { eachDeviation, type WeeklyPanel } from './weekly';

/** Correlations from one week to the next that the model is made of. */
export const WEEKLY_CORRELATIONS = [0.7, 0.82, 0.9, 0.96, 0.99, 0.998] as const;

/**
 * Variance components of a row about its level: `parts[i]` belongs to WEEKLY_CORRELATIONS[i],
 * `nugget` to what lasts less than a week. `dispersion` is the counting variance as a multiple of
 * that of independent counts.
 */
export type Covariance = {
  readonly parts: readonly number[];
  readonly nugget: number;
  readonly dispersion: number;
};

/** Assumed where a site is too young to show its own: standard deviations of about 17% in all. */
const ASSUMED: Covariance = { parts: [0.004, 0.004, 0.008, 0.008, 0.004, 0], nugget: 0.004, dispersion: 1 };
/** Rows with half a year of weeks at which what was seen counts as much as what is assumed. */
const TRUSTED_ROWS = 6;
/** Lags, in weeks, at which the semivariogram is taken. */
const LAGS = 25;
/** Variance at which a pair of weeks has half its weight. */
const PAIR_SPREAD = 0.03;
/** Rows are told apart by their counting noise in steps of four. */
const NOISE_CLASSES = 8;
const CLASS_BOUNDS = Array.from({ length: NOISE_CLASSES - 1 }, (_, i) => 4 ** -(i + 0.5));

function classOf(noise: number): number {
  let at = 0;
  while (at < CLASS_BOUNDS.length && noise < CLASS_BOUNDS[at]!) at += 1;
  return at;
}

/**
 * Empirical semivariogram: half the mean squared difference of weeks, by lag and counting noise.
 */
export class Semivariogram {
  private readonly half = new Float64Array((LAGS + 1) * NOISE_CLASSES);
  private readonly noise = new Float64Array((LAGS + 1) * NOISE_CLASSES);
  private readonly weight = new Float64Array((LAGS + 1) * NOISE_CLASSES);

  /** Adds the difference of two weeks `lag` apart, and the mean of their counting variances. */
  add(lag: number, difference: number, noise: number): void {
    const cell = lag * NOISE_CLASSES + classOf(noise);
    const weight = 1 / (PAIR_SPREAD + 2 * noise) ** 2;
    this.half[cell]! += weight * 0.5 * difference * difference;
    this.noise[cell]! += weight * noise;
    this.weight[cell]! += weight;
  }

  /**
   * The best-fitting model, shrunk toward the prior by 1 − `trust`.
   *
   * Source: Cressie, Statistics for Spatial Data (1993), chapter 2; Lawson and Hanson (1974) for
   * non-negative least squares.
   */
  fit(trust: number): Covariance {
    const rows: number[][] = [];
    const seen: number[] = [];
    for (let lag = 1; lag <= LAGS; lag++) {
      for (let noise = 0; noise < NOISE_CLASSES; noise++) {
        const cell = lag * NOISE_CLASSES + noise;
        const pairs = this.weight[cell]!;
        if (pairs === 0) continue;
        // Near lags decide over a forecast, and rest on more pairs.
        const weight = Math.sqrt(pairs / lag);
        const lags = WEEKLY_CORRELATIONS.map((rho) => weight * (1 - rho ** lag));
        rows.push([...lags, weight, (weight * this.noise[cell]!) / pairs]);
        seen.push((weight * this.half[cell]!) / pairs);
      }
    }
    const unknowns = WEEKLY_CORRELATIONS.length + 2;
    if (rows.length < unknowns) return ASSUMED;
    const fitted = fcnnlsVector(rows, seen).K.to1DArray();
    const pull = (own: number, assumed: number) => trust * own + (1 - trust) * assumed;
    return {
      parts: WEEKLY_CORRELATIONS.map((_, i) => pull(fitted[i]!, ASSUMED.parts[i]!)),
      nugget: pull(fitted[unknowns - 2]!, ASSUMED.nugget),
      dispersion: Math.min(3, Math.max(0.1, pull(fitted[unknowns - 1]!, ASSUMED.dispersion))),
    };
  }
}

/**
 * Covariance of the rows of a mask about their levels, from a panel less site and group effects.
 */
export function fitCovariance(panel: WeeklyPanel, among: Uint8Array): Covariance {
  const { rows, weeks, cut } = panel;
  const own = new Float64Array(rows * weeks).fill(NaN);
  const noises = new Float64Array(rows * weeks);
  let known = 0;
  eachDeviation(panel, among, ({ row, week, value, noise }) => {
    own[row * weeks + week] = value;
    noises[row * weeks + week] = noise;
    known += 1;
  });
  const variogram = new Semivariogram();
  for (let row = 0; row < rows; row++) {
    for (let week = 0; week < weeks; week++) {
      const at = row * weeks + week;
      if (own[at] !== own[at]) continue;
      for (let lag = 1; lag <= LAGS && week + lag < weeks && cut[at + lag] === 0; lag++) {
        if (own[at + lag] !== own[at + lag]) continue;
        variogram.add(lag, own[at + lag]! - own[at]!, (noises[at]! + noises[at + lag]!) / 2);
      }
    }
  }
  const halfYears = known / 26;
  return variogram.fit(halfYears / (halfYears + TRUSTED_ROWS));
}
