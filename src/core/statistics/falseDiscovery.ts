/**
 * Which p-values are rejected so that the expected share of false rejections is at most `level`:
 * the step-up procedure. Keeps the order of the values. Throws RangeError if a value isn’t a
 * probability.
 *
 * Source: Benjamini and Hochberg, Journal of the Royal Statistical Society B 57 (1995) 289-300.
 *
 * @example falseDiscovery([0.01, 0.04, 0.03, 0.9], 0.05) // [true, false, false, false]
 */
export function falseDiscovery(values: readonly number[], level: number): boolean[] {
  return adjusted(values).map((value) => value <= level);
}

/**
 * The least level at which each of several p-values would be rejected.
 * @example adjusted([0.01, 0.04, 0.03]) // [0.03, 0.04, 0.04]
 */
export function adjusted(values: readonly number[]): number[] {
  if (values.some((value) => !(value >= 0 && value <= 1)))
    throw new RangeError('A p-value lies between 0 and 1.');
  const order = values.map((_, i) => i).sort((a, b) => values[b]! - values[a]!);
  const found = new Array<number>(values.length);
  let least = 1;
  order.forEach((i, place) => {
    least = Math.min(least, (values[i]! * values.length) / (values.length - place));
    found[i] = least;
  });
  return found;
}
