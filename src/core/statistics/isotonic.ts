/**
 * Weighted least-squares fit that never falls, by pool-adjacent-violators. Throws RangeError if the
 * lengths differ.
 *
 * Source: Barlow, Bartholomew, Bremner and Brunk, Statistical Inference under Order Restrictions
 * (1972).
 *
 * @param weights positive, one per value; equal by default
 * @example isotonic([1, 0, 4, 3, 3, 5, 4, 2, 0]) // [0.5, 0.5, 3, 3, 3, 3, 3, 3, 3]
 */
export function isotonic(values: readonly number[], weights?: readonly number[]): number[] {
  if (weights && weights.length !== values.length) throw new RangeError('A weight for each value is needed.');
  const blocks: { mean: number; weight: number; size: number }[] = [];
  values.forEach((value, i) => {
    let block = { mean: value, weight: weights?.[i] ?? 1, size: 1 };
    for (let last = blocks.at(-1); last && last.mean >= block.mean; last = blocks.at(-1)) {
      blocks.pop();
      const weight = last.weight + block.weight;
      const mean = (last.mean * last.weight + block.mean * block.weight) / weight;
      block = { mean, weight, size: last.size + block.size };
    }
    blocks.push(block);
  });
  return blocks.flatMap(({ mean, size }) => Array<number>(size).fill(mean));
}

/** The same fit, but one that never rises. */
export function antitonic(values: readonly number[], weights?: readonly number[]): number[] {
  return isotonic(
    values.map((value) => -value),
    weights,
  ).map((value) => -value);
}
