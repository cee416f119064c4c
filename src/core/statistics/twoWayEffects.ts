/* Two-way fixed effects in an unbalanced panel: value = unit + time, with cell weights. */

/**
 * The cells of a panel as columns, of which the first `length` are used. A cell may occur more
 * than once.
 */
export type PanelCells = {
  readonly length: number;
  /** Index of each cell's unit, from 0 to `units` − 1. */
  readonly unit: Int32Array;
  readonly units: number;
  /** Index of each cell's time, from 0 to `times` − 1. */
  readonly time: Int32Array;
  readonly times: number;
  readonly value: Float64Array;
  /** Weights, 0 or more. */
  readonly weight: Float64Array;
};

const MOST_STEPS = 200;
/**
 * Relative size of the residual at which the solution has settled: below 0.01% of a typical
 * effect.
 */
const SETTLED = 1e-6;

/**
 * Time effects of the weighted regression value = unit + time, the "time-product dummy" index
 * where units are products and values are logarithms of prices. A unit that exists only at some
 * times does not carry their level into the others, as it does when each unit is compared with its
 * own mean.
 *
 * Units are eliminated, and the normal equations of the times are solved by conjugate gradients
 * with Jacobi's preconditioner; a plain iteration of alternating means has the same solution and
 * takes many more passes. Times that no chain of units links have no known difference: in each
 * linked set the weighted mean of the effects is 0.
 *
 * Source: Rao (1995) and Diewert (2005) on the time-product dummy method, from memory; checked
 * against R's `lm(value ~ unit + time, weights = weight)`.
 *
 * @returns one effect for each time, in units of the values; 0 at times without weight
 * @example
 * // Two units, the second only at the later time, and nothing moved:
 * twoWayTimeEffects({ length: 3, unit: Int32Array.of(0, 0, 1), units: 2,
 *   time: Int32Array.of(0, 1, 1), times: 2, value: Float64Array.of(1, 1, 5),
 *   weight: Float64Array.of(1, 1, 1) }) // Float64Array [0, 0]
 */
export function twoWayTimeEffects(cells: PanelCells): Float64Array {
  const { length, unit, units, time, times, value, weight } = cells;
  const [unitWeight, timeWeight] = [new Float64Array(units), new Float64Array(times)];
  for (let i = 0; i < length; i++) {
    unitWeight[unit[i]!]! += weight[i]!;
    timeWeight[time[i]!]! += weight[i]!;
  }
  const mean = new Float64Array(units);
  const meansOf = (at: (cell: number) => number) => {
    mean.fill(0);
    for (let i = 0; i < length; i++) mean[unit[i]!]! += weight[i]! * at(i);
    for (let u = 0; u < units; u++) if (unitWeight[u]! > 0) mean[u]! /= unitWeight[u]!;
  };
  // Normal equations of the time effects, units eliminated: sums of what the unit means leave.
  const residual = new Float64Array(times);
  meansOf((i) => value[i]!);
  for (let i = 0; i < length; i++) residual[time[i]!]! += weight[i]! * (value[i]! - mean[unit[i]!]!);
  const product = new Float64Array(times);
  const apply = (effects: Float64Array) => {
    meansOf((i) => effects[time[i]!]!);
    product.fill(0);
    for (let i = 0; i < length; i++) {
      const t = time[i]!;
      product[t]! += weight[i]! * (effects[t]! - mean[unit[i]!]!);
    }
  };
  return conjugateGradients(apply, product, residual, timeWeight);
}

/**
 * Solves A·x = b for a positive semidefinite A with the diagonal preconditioner `scale`; `apply`
 * writes A·v to `product`.
 */
function conjugateGradients(
  apply: (vector: Float64Array) => void,
  product: Float64Array,
  residual: Float64Array,
  scale: Float64Array,
): Float64Array {
  const scaled = () => residual.map((r, t) => (scale[t]! > 0 ? r / scale[t]! : 0));
  const solution = new Float64Array(residual.length);
  let direction = scaled();
  let size = dot(residual, direction);
  const enough = size * SETTLED * SETTLED;
  for (let step = 0; step < MOST_STEPS && size > enough; step++) {
    apply(direction);
    const curvature = dot(direction, product);
    if (!(curvature > 0)) break;
    const along = size / curvature;
    for (let t = 0; t < solution.length; t++) {
      solution[t]! += along * direction[t]!;
      residual[t]! -= along * product[t]!;
    }
    const next = scaled();
    const nextSize = dot(residual, next);
    const turn = nextSize / size;
    size = nextSize;
    direction = next.map((z, t) => z + turn * direction[t]!);
  }
  return solution;
}

function dot(a: Float64Array, b: Float64Array): number {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += a[i]! * b[i]!;
  return sum;
}
