import { randomLcg, randomNormal } from 'd3-random';
import { normalCdf } from './normal';
import { nextEffect } from './prediction';
import { hartungKnapp, randomEffects } from './randomEffects';

test('holds the next study nine times in ten, also where the spread is small beside the noise', () => {
  const random = randomLcg(0.37);
  const spread = 0.1;
  const [truth, noise] = [randomNormal.source(random)(0.05, spread), randomNormal.source(random)(0, 0.12)];
  const share = (low: number, high: number) =>
    normalCdf((high - 0.05) / spread) - normalCdf((low - 0.05) / spread);
  let [ours, plain] = [0, 0];
  const books = 400;
  for (let i = 0; i < books; i++) {
    const estimates = Array.from({ length: 10 }, () => truth() + noise());
    const variances = estimates.map(() => 0.12 ** 2);
    const next = nextEffect(estimates, variances, 0.9);
    ours += share(next.low, next.high) / books;
    const range = hartungKnapp(estimates, variances, randomEffects(estimates, variances), 0.9);
    plain += share(range.next!.low, range.next!.high) / books;
  }
  expect(ours).toBeGreaterThan(0.88);
  expect(ours).toBeLessThan(0.96);
  // With the spread taken for known it is less often.
  expect(plain).toBeLessThan(ours);
});

test('of the same estimates over and over is the interval of the mean, and errors in common widen it', () => {
  const same = Array.from({ length: 8 }, () => 0.2);
  const variances = same.map(() => 0.01);
  const { low, high } = nextEffect(same, variances, 0.9);
  expect((low + high) / 2).toBeCloseTo(0.2, 9);
  const together = nextEffect(same, variances, 0.9, 0.02);
  expect(together.high - together.low).toBeGreaterThan(high - low);
  expect(() => nextEffect([0.1, 0.2], [0.1, 0.1], 0.9)).toThrow(RangeError);
});

test('is where it was with everything moved along', () => {
  const estimates = [0.1, -0.2, 0.3, 0.25, 0];
  const variances = [0.01, 0.02, 0.01, 0.03, 0.02];
  const one = nextEffect(estimates, variances, 0.9);
  const moved = nextEffect(
    estimates.map((y) => y + 1),
    variances,
    0.9,
  );
  expect(moved.low).toBeCloseTo(one.low + 1, 9);
  expect(moved.high).toBeCloseTo(one.high + 1, 9);
});
