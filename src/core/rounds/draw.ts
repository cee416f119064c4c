/* The draw of a round: which pages go first. */

import { randomLcg, randomUniform } from 'd3-random';

/** Pages in their two halves. */
export type Halves = { readonly first: readonly number[]; readonly second: readonly number[] };

/**
 * Draws half of each block to go first. In odd blocks, the larger part alternates between the
 * halves, beginning at random. The same blocks and seed give the same halves.
 *
 * @example drawnHalves([[1, 2], [3, 4]], 212) // { first: [2, 3], second: [1, 4] }, or another draw
 */
export function drawnHalves(blocks: readonly (readonly number[])[], seed: number): Halves {
  // Seeds are whole numbers to people, and lie between 0 and 1 to the generator.
  const uniform = randomUniform.source(randomLcg((seed % 1_000_003) / 1_000_003))();
  // The first numbers of near seeds are near each other.
  for (let i = 0; i < 10; i++) uniform();
  const [first, second]: [number[], number[]] = [[], []];
  // In odd blocks the larger part alternates, so that the halves stay even; the first is random.
  let larger: boolean | null = null;
  for (const block of blocks) {
    const order = [...block].sort((a, b) => a - b);
    for (let i = order.length - 1; i > 0; i--) {
      const k = Math.floor(uniform() * (i + 1));
      [order[i], order[k]] = [order[k]!, order[i]!];
    }
    const half = order.length / 2;
    if (!Number.isInteger(half)) larger = larger === null ? uniform() >= 0.5 : !larger;
    const size = larger ? Math.ceil(half) : Math.floor(half);
    first.push(...order.slice(0, size));
    second.push(...order.slice(size));
  }
  return { first, second };
}
