import { randomLcg, randomNormal } from 'd3-random';
import { Z90 } from './normal';
import { nextEffect } from './prediction';
import { shrunken } from './shrinkage';
import { likelySpreads, meanAt } from './spread';

/*
 * By R 4.2, on the 13 trials of dat.bcg (metafor's documentation; log risk ratios and variances to four places):
 *
 * y <- c(-.8893,-1.5854,-1.3481,-1.4416,-.2175,-.7861,-1.6209,.0120,-.4694,-1.3713,-.3394,.4459,-.0173)
 * v <- c(.3256,.1946,.4154,.0200,.0512,.0069,.2230,.0040,.0564,.0730,.0124,.5325,.0714)
 * m <- function(t) sum(y/(v+t^2))/sum(1/(v+t^2))
 * like <- Vectorize(function(t) { w <- 1/(v+t^2)
 *   exp(sum(log(w))/2 - log(sum(w))/2 - sum(w*(y-m(t))^2)/2 - t^2/2/.5^2) })
 * all <- integrate(like, 0, 3, rel.tol=1e-10)$value
 * cdf <- function(x) integrate(like, 0, x, rel.tol=1e-10)$value/all
 * sapply(c(.1,.5,.9), function(q) uniroot(function(x) cdf(x)-q, c(0,3), tol=1e-9)$root)
 * # 0.4058799 0.5537596 0.7610837
 * below <- function(x) integrate(Vectorize(function(t) like(t)*pnorm((x-m(t))/sqrt(t^2+1/sum(1/(v+t^2))))),
 *   0, 3, rel.tol=1e-10)$value/all
 * sapply(c(.05,.95), function(q) uniroot(function(x) below(x)-q, c(-5,3), tol=1e-9)$root)
 * # -1.7256238 0.2903689
 */
const ESTIMATES = [
  ...[-0.8893, -1.5854, -1.3481, -1.4416, -0.2175, -0.7861, -1.6209, 0.012],
  ...[-0.4694, -1.3713, -0.3394, 0.4459, -0.0173],
];
const VARIANCES = [
  ...[0.3256, 0.1946, 0.4154, 0.02, 0.0512, 0.0069, 0.223, 0.004],
  ...[0.0564, 0.073, 0.0124, 0.5325, 0.0714],
];

describe('the spread between studies', () => {
  test('is that of the BCG trials by R', () => {
    const spreads = likelySpreads(ESTIMATES, VARIANCES).map(Math.sqrt);
    expect(spreads).toHaveLength(25);
    // The middles of the third, the thirteenth and the twenty-third of 25 parts.
    expect(spreads[2]).toBeCloseTo(0.40588, 3);
    expect(spreads[12]).toBeCloseTo(0.55376, 3);
    expect(spreads[22]).toBeCloseTo(0.76108, 3);
    const next = nextEffect(ESTIMATES, VARIANCES, 0.9);
    expect(next.low).toBeCloseTo(-1.7256, 2);
    expect(next.high).toBeCloseTo(0.2904, 2);
  });

  test('rises, does not mind where the estimates lie, and grows with how far they lie apart', () => {
    const spreads = likelySpreads(ESTIMATES, VARIANCES);
    spreads.slice(1).forEach((one, i) => expect(one).toBeGreaterThan(spreads[i]!));
    const moved = likelySpreads(
      ESTIMATES.map((y) => y + 3),
      VARIANCES,
    );
    moved.forEach((one, i) => expect(one).toBeCloseTo(spreads[i]!, 9));
    const apart = likelySpreads(
      ESTIMATES.map((y) => 1.3 * y),
      VARIANCES,
    );
    apart.forEach((one, i) => expect(one).toBeGreaterThan(spreads[i]!));
    expect(() => likelySpreads([0.1], [0.01])).toThrow(RangeError);
    expect(() => likelySpreads([0.1, 0.2], [0.01])).toThrow(RangeError);
  });

  test('of two that say little is hardly more than the prior', () => {
    // Half of a half-normal distribution of scale 0.5 lies below 0.337.
    expect(Math.sqrt(likelySpreads([0.1, 0.2], [400, 400])[12]!)).toBeCloseTo(0.337, 2);
  });

  test('the weighted mean at it', () => {
    expect(meanAt([1, 4], [0.5, 2], 0)).toEqual({ mean: 1.6, weight: 2.5 });
    expect(meanAt([1, 4], [0.5, 2], 1e9).mean).toBeCloseTo(2.5, 6);
  });
});

test('shrunken effects know how sure they are, nine in ten, where few tell the spread', () => {
  const random = randomLcg(0.59);
  const [truth, noise] = [randomNormal.source(random)(0.05, 0.15), randomNormal.source(random)(0, 0.15)];
  let [held, taken] = [0, 0];
  for (let book = 0; book < 300; book++) {
    const truths = Array.from({ length: 8 }, truth);
    const estimates = truths.map((one) => one + noise());
    const variances = estimates.map(() => 0.15 ** 2);
    const between = likelySpreads(estimates, variances);
    const at = meanAt(estimates, variances, between[12]!);
    const prior = { mean: at.mean, between, standardError: Math.sqrt(1 / at.weight) };
    shrunken(estimates, variances, prior).forEach(({ mean, standardError }, i) => {
      taken += 1;
      if (Math.abs(truths[i]! - mean) <= Z90 * standardError) held += 1;
    });
  }
  expect(held / taken).toBeGreaterThan(0.87);
  expect(held / taken).toBeLessThan(0.94);
});
