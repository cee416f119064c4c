/* Kriging: the best linear prediction of a span from the weeks before it, given a covariance. */

import { CholeskyDecomposition, Matrix } from 'ml-matrix';
import { WEEKLY_CORRELATIONS, type Covariance } from './covariance';
import { PAST_WEEKS } from './weekly';

/** Variance of a row's level, so large that the level is as good as free. */
export const FREE_LEVEL = 4;
/** Noises are told apart in steps of a half on the log scale: the weights hardly depend on them. */
const NOISE_STEP = 0.5;
const [LEAST_NOISE, MOST_NOISE] = [1e-6, 50];

/** The predicted days: `days` days, from `settlingDays` after the change on. */
export type Horizon = { readonly settlingDays: number; readonly days: number };

/** Weights of the past weeks, newest first, and the prediction variance without counting noise. */
export type Prediction = { readonly weights: Float64Array; readonly variance: number };

/** Past weeks with about the same counting noise: predictions that share weights. */
type Case = {
  readonly weeks: number;
  readonly noise: number;
  readonly factor: CholeskyDecomposition;
  readonly predictions: Map<number, Prediction>;
  readonly variances: Map<number, number>;
};

/**
 * Predicts spans from the weeks before: a weighted sum of weeks whose level is free. Week k = 1 is
 * the last before the change; its middle and a day h after the change are k + (h − 3) / 7 weeks
 * apart. Solutions are cached by number of weeks, noise class and horizon.
 *
 * Source: Cressie, Statistics for Spatial Data (1993), chapter 3: ordinary kriging, as the limit of
 * a free level.
 */
export class Kriging {
  private readonly cases = new Map<number, Case>();
  /** The covariance of weeks so far apart. */
  private readonly lags: Float64Array;

  constructor(private readonly covariance: Covariance) {
    this.lags = Float64Array.from({ length: PAST_WEEKS }, (_, lag) =>
      WEEKLY_CORRELATIONS.reduce((sum, rho, i) => sum + covariance.parts[i]! * rho ** lag, 0),
    );
  }

  /** The prediction of a span from so many weeks before, each with this variance of counting. */
  predict(weeks: number, noise: number, horizon: Horizon): Prediction {
    const { predictions, factor } = this.caseOf(weeks, noise);
    const key = horizon.days * 4096 + horizon.settlingDays;
    let prediction = predictions.get(key);
    if (!prediction) {
      const { withWeeks, own } = this.targetOf(horizon, key);
      const target = withWeeks.slice(0, weeks);
      const weights = Float64Array.from(factor.solve(Matrix.columnVector(target)).to1DArray());
      const explained = weights.reduce((sum, weight, i) => sum + weight * target[i]!, 0);
      prediction = { weights, variance: Math.max(1e-6, own - explained) };
      predictions.set(key, prediction);
    }
    return prediction;
  }

  /** Covariance of a span with each past week, newest first, and the variance of the span. */
  private targetOf(horizon: Horizon, key: number) {
    let target = this.targets.get(key);
    if (!target) {
      const withWeeks = Array.from(
        { length: PAST_WEEKS },
        (_, i) => this.withSpan(i + 1, horizon) + FREE_LEVEL,
      );
      target = { withWeeks, own: this.ofSpan(horizon.days) + FREE_LEVEL };
      this.targets.set(key, target);
    }
    return target;
  }
  private readonly targets = new Map<number, { readonly withWeeks: number[]; readonly own: number }>();

  /**
   * Variance of the mean of the last `recent` weeks less the mean of the last `weeks`.
   *
   * @example new Kriging(covariance).contrast(26, 0.01, 4, 26) // the variance of a dip
   */
  contrast(weeks: number, noise: number, recent: number, of: number): number {
    const { variances, noise: stepped } = this.caseOf(weeks, noise);
    const key = recent * 64 + of;
    let variance = variances.get(key);
    if (variance === undefined) {
      variance = 0;
      const weight = (week: number) => (week < recent ? 1 / recent : 0) - 1 / of;
      for (let i = 0; i < of; i++) {
        for (let j = 0; j < of; j++) variance += weight(i) * weight(j) * this.lags[Math.abs(i - j)]!;
        variance += weight(i) ** 2 * (this.covariance.nugget + stepped);
      }
      variances.set(key, variance);
    }
    return variance;
  }

  /**
   * Inputs of a prediction, for the workbook: the noise class and the inverse covariance of the
   * weeks.
   */
  workingOf(weeks: number, noise: number): { readonly noise: number; readonly inverse: number[][] } {
    const { factor, noise: stepped } = this.caseOf(weeks, noise);
    return { noise: stepped, inverse: factor.solve(Matrix.eye(weeks)).to2DArray() };
  }

  private caseOf(weeks: number, noise: number): Case {
    const step = Math.round(Math.log(Math.min(MOST_NOISE, Math.max(LEAST_NOISE, noise))) / NOISE_STEP);
    const key = step * 64 + weeks;
    let known = this.cases.get(key);
    if (!known) {
      const stepped = Math.exp(step * NOISE_STEP);
      const matrix = Matrix.zeros(weeks, weeks);
      for (let i = 0; i < weeks; i++) {
        for (let j = 0; j < weeks; j++) matrix.set(i, j, this.lags[Math.abs(i - j)]! + FREE_LEVEL);
        matrix.set(i, i, matrix.get(i, i) + this.covariance.nugget + stepped);
      }
      const factor = new CholeskyDecomposition(matrix);
      known = { weeks, noise: stepped, factor, predictions: new Map(), variances: new Map() };
      this.cases.set(key, known);
    }
    return known;
  }

  /** Mean covariance of week k before with the days of a span: a geometric series for each part. */
  private withSpan(week: number, { settlingDays, days }: Horizon): number {
    return WEEKLY_CORRELATIONS.reduce((sum, rho, i) => {
      const daily = rho ** (1 / 7);
      const mean = (1 - daily ** days) / ((1 - daily) * days);
      return sum + this.covariance.parts[i]! * rho ** (week - 3 / 7) * daily ** settlingDays * mean;
    }, 0);
  }

  /** Variance of the mean of the days of a span. */
  private ofSpan(days: number): number {
    const { parts, nugget } = this.covariance;
    return WEEKLY_CORRELATIONS.reduce(
      (sum, rho, i) => {
        const daily = rho ** (1 / 7);
        const others = (daily * (days - 1 - days * daily + daily ** days)) / (1 - daily) ** 2;
        return sum + (parts[i]! * (days + 2 * others)) / (days * days);
      },
      (nugget * 7) / Math.max(7, days),
    );
  }
}
