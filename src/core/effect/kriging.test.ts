import { randomLcg, randomNormal } from 'd3-random';
import { Semivariogram, WEEKLY_CORRELATIONS, type Covariance } from './covariance';
import { Kriging } from './kriging';

const only = (part: Partial<Record<number, number>>, nugget = 0): Covariance => ({
  parts: WEEKLY_CORRELATIONS.map((rho) => part[rho] ?? 0),
  ...{ nugget, dispersion: 1 },
});
const HORIZON = { settlingDays: 7, days: 28 };

describe('kriging', () => {
  // Without any wander the best prediction is the mean, and its error that of the mean and of the span's own noise.
  test('of weeks that only vary by chance predicts their mean', () => {
    const { weights, variance } = new Kriging(only({}, 0.02)).predict(26, 1e-6, HORIZON);
    for (const weight of weights) expect(weight).toBeCloseTo(1 / 26, 3);
    expect(variance).toBeCloseTo(0.02 / 4 + 0.02 / 26, 4);
  });

  // A first-order autoregression without noise: the last week says all that can be said, but for the free level.
  test('of a wander that remembers its last value only goes by the last week and the level', () => {
    const { weights } = new Kriging(only({ 0.9: 0.1 })).predict(26, 1e-6, HORIZON);
    expect(weights[0]).toBeGreaterThan(0.5);
    for (let week = 1; week < 25; week++) expect(Math.abs(weights[week]!)).toBeLessThan(0.05);
    expect(weights.reduce((sum, weight) => sum + weight, 0)).toBeCloseTo(1, 2);
  });

  test('the longer ahead, and the noisier the weeks, the less is known', () => {
    const kriging = new Kriging(only({ 0.82: 0.05, 0.96: 0.05 }, 0.002));
    const at = (noise: number, settlingDays: number) =>
      kriging.predict(26, noise, { settlingDays, days: 28 }).variance;
    expect(at(0.01, 28)).toBeGreaterThan(at(0.01, 0));
    expect(at(0.2, 7)).toBeGreaterThan(at(0.001, 7));
    expect(kriging.predict(4, 0.01, HORIZON).variance).toBeGreaterThan(at(0.01, 7));
  });

  test('a month against half a year has the variance of that contrast', () => {
    // By chance alone: a quarter of a week's variance, less what the month has in the half year.
    const nugget = 0.04;
    const variance = new Kriging(only({}, nugget)).contrast(26, 1e-6, 4, 26);
    expect(variance).toBeCloseTo(nugget * (1 / 4 - 1 / 26), 5);
  });
});

test('the covariance of a simulated wander is found again, with its noise told apart', () => {
  const normal = randomNormal.source(randomLcg(0.7))();
  const variogram = new Semivariogram();
  const [rho, sill] = [0.9, 0.08];
  for (let row = 0; row < 400; row++) {
    const noise = row % 2 === 0 ? 0.002 : 0.06;
    let at = Math.sqrt(sill) * normal();
    const values = Array.from({ length: 60 }, () => {
      at = rho * at + Math.sqrt(sill * (1 - rho * rho)) * normal();
      return at + Math.sqrt(1.5 * noise) * normal();
    });
    values.forEach((value, i) => {
      for (let lag = 1; lag <= 25 && i + lag < values.length; lag++)
        variogram.add(lag, values[i + lag]! - value, noise);
    });
  }
  const fitted = variogram.fit(1);
  // Counting varied half as much again as independent counts would.
  expect(fitted.dispersion).toBeCloseTo(1.5, 0);
  expect(fitted.parts.reduce((sum, part) => sum + part, fitted.nugget)).toBeGreaterThan(0.06);
  const atLag = (lag: number) =>
    fitted.parts.reduce((sum, part, i) => sum + part * (1 - WEEKLY_CORRELATIONS[i]! ** lag), fitted.nugget);
  for (const lag of [1, 4, 12]) expect(atLag(lag)).toBeCloseTo(sill * (1 - rho ** lag), 1);
});
