import fc from 'fast-check';
import { antitonic, isotonic } from './isotonic';
import { normalQuantile, Z90, Z_POWER80 } from './normal';
import { scoreInterval } from './proportion';
import { proportionDifference } from './proportionDifference';
import { hartungKnapp, randomEffects } from './randomEffects';

// Newcombe, Statistics in Medicine 17 (1998) 857-872, table I, method 3.
test.each([
  [81, 263, 0.2553, 0.3662],
  [15, 148, 0.0624, 0.1605],
  [0, 20, 0, 0.1611],
  [1, 29, 0.0061, 0.1718],
])('score interval of %p of %p, Newcombe 1998', (hits, trials, low, high) => {
  const interval = scoreInterval(hits, trials, 0.95);
  expect(interval.low).toBeCloseTo(low, 4);
  expect(interval.high).toBeCloseTo(high, 4);
});

// Newcombe, Statistics in Medicine 17 (1998) 873-890, table II (a), method 10.
test('hybrid score interval of a difference, Newcombe 1998', () => {
  const { difference, low, high } = proportionDifference(
    { hits: 48, trials: 80 },
    { hits: 56, trials: 70 },
    0.95,
  );
  expect(difference).toBeCloseTo(0.2, 12);
  expect(low).toBeCloseTo(0.0524, 4);
  expect(high).toBeCloseTo(0.3339, 4);
});

test('what is no proportion is refused', () => {
  expect(() => scoreInterval(1, 0, 0.95)).toThrow(RangeError);
  expect(() => scoreInterval(3, 2, 0.95)).toThrow(RangeError);
});

test('exchanging the proportions turns the difference and its interval round', () => {
  const proportion = fc
    .tuple(fc.nat(50), fc.integer({ min: 1, max: 50 }))
    .map(([hits, more]) => ({ hits, trials: hits + more }));
  fc.assert(
    fc.property(proportion, proportion, (a, b) => {
      const there = proportionDifference(a, b, 0.9);
      const back = proportionDifference(b, a, 0.9);
      expect(there.low).toBeCloseTo(-back.high, 12);
      expect(there.high).toBeCloseTo(-back.low, 12);
      expect(there.low).toBeLessThanOrEqual(there.difference);
    }),
  );
});

// The example of R's isoreg help page: isoreg(c(1,0,4,3,3,5,4,2,0)).
test('isotonic fit, R isoreg', () => {
  expect(isotonic([1, 0, 4, 3, 3, 5, 4, 2, 0])).toEqual([0.5, 0.5, 3, 3, 3, 3, 3, 3, 3]);
});

test('an isotonic fit never falls, keeps the weighted sum, and leaves what rises as it is', () => {
  const points = fc.array(
    fc.tuple(fc.double({ min: -50, max: 50, noNaN: true }), fc.double({ min: 0.1, max: 9, noNaN: true })),
    {
      minLength: 1,
      maxLength: 40,
    },
  );
  fc.assert(
    fc.property(points, (list) => {
      const [values, weights] = [list.map(([v]) => v), list.map(([, w]) => w)];
      const fitted = isotonic(values, weights);
      fitted.forEach((value, i) => expect(value).toBeGreaterThanOrEqual((fitted[i - 1] ?? -Infinity) - 1e-9));
      const sum = (of: number[]) => of.reduce((total, v, i) => total + v * weights[i]!, 0);
      expect(sum(fitted)).toBeCloseTo(sum(values), 6);
      expect(isotonic(fitted, weights)).toEqual(fitted.map((v) => expect.closeTo(v, 9)));
      expect(
        antitonic(
          values.map((v) => -v),
          weights,
        ),
      ).toEqual(fitted.map((v) => expect.closeTo(-v, 9)));
    }),
  );
});

/*
 * The 13 trials of BCG vaccine (metafor's dat.bcg): tuberculosis and not, vaccinated and control. From memory; the
 * results are those of metafor's documentation for rma(measure = "RR", method = "DL").
 */
const BCG = [
  [4, 119, 11, 128],
  [6, 300, 29, 274],
  [3, 228, 11, 209],
  [62, 13536, 248, 12619],
  [33, 5036, 47, 5761],
  [180, 1361, 372, 1079],
  [8, 2537, 10, 619],
  [505, 87886, 499, 87892],
  [29, 7470, 45, 7232],
  [17, 1699, 65, 1600],
  [186, 50448, 141, 27197],
  [5, 2493, 3, 2338],
  [27, 16886, 29, 17825],
] as const;

test('random-effects mean, BCG vaccine trials, metafor', () => {
  const logRatios = BCG.map(([a, b, c, d]) => Math.log(a / (a + b) / (c / (c + d))));
  const variances = BCG.map(([a, b, c, d]) => 1 / a - 1 / (a + b) + 1 / c - 1 / (c + d));
  const pooled = randomEffects(logRatios, variances);
  expect(pooled.mean).toBeCloseTo(-0.7141, 4);
  expect(pooled.standardError).toBeCloseTo(0.1787, 4);
  expect(pooled.between).toBeCloseTo(0.3088, 4);
  expect(pooled.heterogeneity).toBeCloseTo(152.233, 3);
});

test('interval by Hartung and Knapp and interval for the next study, BCG vaccine trials, metafor', () => {
  // library(metafor); r <- rma(measure = "RR", ai = tpos, bi = tneg, ci = cpos, di = cneg, data = dat.bcg, method = "DL", test = "knha"); predict(r)
  const logRatios = BCG.map(([a, b, c, d]) => Math.log(a / (a + b) / (c / (c + d))));
  const variances = BCG.map(([a, b, c, d]) => 1 / a - 1 / (a + b) + 1 / c - 1 / (c + d));
  const range = hartungKnapp(logRatios, variances, randomEffects(logRatios, variances), 0.95);
  expect(range.standardError).toBeCloseTo(0.1807, 4);
  expect([range.low, range.high]).toEqual([expect.closeTo(-1.1078, 4), expect.closeTo(-0.3204, 4)]);
  expect([range.next!.low, range.next!.high]).toEqual([expect.closeTo(-1.9872, 4), expect.closeTo(0.559, 4)]);
  expect(hartungKnapp([0, 1], [1, 1], randomEffects([0, 1], [1, 1]), 0.95).next).toBeNull();
  expect(() => hartungKnapp([1], [1], randomEffects([1], [1]), 0.95)).toThrow(RangeError);
});

test('few estimates that agree by chance make no interval narrower than their variances, many do', () => {
  const errorOf = (n: number) => {
    // They scatter by a half of what their variances of 1 let expect.
    const estimates = Array.from(
      { length: n },
      (_, i) => (i % 2 === 0 ? 1 : -1) * Math.sqrt((0.5 * (n - 1)) / n),
    );
    const variances = estimates.map(() => 1);
    return hartungKnapp(estimates, variances, randomEffects(estimates, variances), 0.9).standardError;
  };
  expect(errorOf(4)).toBeCloseTo(1 / 2, 12);
  expect(errorOf(8)).toBeCloseTo(1 / Math.sqrt(8), 12);
  expect(errorOf(10)).toBeCloseTo(Math.sqrt(0.5 / 10), 12);
  expect(errorOf(24)).toBeCloseTo(Math.sqrt(0.5 / 24), 12);
});

test('estimates that agree have no spread between them, and weigh by their precision', () => {
  expect(randomEffects([0.2, 0.2], [0.01, 0.04])).toMatchObject({
    between: 0,
    mean: expect.closeTo(0.2, 12),
  });
  expect(randomEffects([0, 1], [1, 3]).mean).toBeCloseTo(0.25, 12);
  expect(() => randomEffects([], [])).toThrow(RangeError);
});

// Any table of the normal distribution.
test('quantiles of the normal distribution', () => {
  expect(normalQuantile(0.975)).toBeCloseTo(1.959964, 5);
  expect(Z90).toBeCloseTo(1.644854, 5);
  expect(Z_POWER80).toBeCloseTo(0.841621, 5);
});
