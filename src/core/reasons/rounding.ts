/**
 * Rounds parts so that they add up to their rounded sum: the largest remainders are rounded up.
 *
 * @example roundParts([0.4, 0.4, 0.2]) // [1, 0, 0]
 */
export function roundParts(parts: readonly number[]): number[] {
  const total = Math.round(parts.reduce((sum, part) => sum + part, 0));
  const rounded = parts.map(Math.floor);
  let left = total - rounded.reduce((sum, part) => sum + part, 0);
  const byRemainder = parts
    .map((part, i) => ({ i, remainder: part - Math.floor(part) }))
    .sort((a, b) => b.remainder - a.remainder || a.i - b.i);
  for (const { i } of byRemainder) {
    if (left-- <= 0) break;
    rounded[i]! += 1;
  }
  return rounded;
}
