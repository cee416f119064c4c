/** Three factors whose product is shared out. */
export type Factors = readonly [number, number, number];

/**
 * Decomposes the difference of two products of three factors, averaged over all orders in which the
 * factors could have changed. The parts add up to the difference; an unchanged factor gets 0.
 *
 * Source: Shapley value; as a standardisation of rates, Das Gupta, US Bureau of the Census P23-186
 * (1993).
 *
 * @example shareProduct([10, 1, 1], [20, 1, 1]) // [10, 0, 0]
 */
export function shareProduct(before: Factors, after: Factors): [number, number, number] {
  const share = (i: 0 | 1 | 2, j: 0 | 1 | 2, k: 0 | 1 | 2) =>
    (after[i] - before[i]) *
    ((before[j] * before[k] + after[j] * after[k]) / 3 + (before[j] * after[k] + after[j] * before[k]) / 6);
  return [share(0, 1, 2), share(1, 0, 2), share(2, 0, 1)];
}
