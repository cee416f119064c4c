import { SAMPLED, type Draws, type DrawTable, type Placed } from './draws';
import { normalQuantile } from './normal';

/** Something that was drawn into one of two halves: its value, and what it weighs. */
export type Unit = Placed & { readonly value: number; readonly weight: number };

/**
 * A control outside the draw, whose mean is zero. The first half is compared with the mean of the
 * second by the weight `share`, and with zero by the rest. All units together are off zero by
 * `error`, a standard deviation. Weights are inverse variances of the units, as reliable as an
 * estimate with `priorFreedom` degrees of freedom.
 */
export type Outside = { readonly share: number; readonly error: number; readonly priorFreedom: number };

/** Halves that are held against each other alone. */
const NOTHING_OUTSIDE: Outside = { share: 1, error: 0, priorFreedom: 0 };

/** What a randomisation test finds. */
export type Randomised = {
  /** Weighted mean of the first half less that of the second, or less what stands in for it. */
  readonly difference: number;
  /**
   * P-values: the share of draws with a difference at least as large in either direction, and in
   * this one.
   */
  readonly twoSided: number;
  readonly oneSided: number;
  /** Differences that the test at a level does not reject. */
  readonly low: number;
  readonly high: number;
  /** How many draws were gone through, and whether these are all there are. */
  readonly draws: number;
  readonly exact: boolean;
};

/** Values that differ by rounding alone are equal. */
const ROUNDING = 1e-9;

/**
 * Randomisation test of the difference of two halves: every other draw within the blocks was
 * equally likely. The interval inverts the test: it holds the shifts of the first half that aren’t
 * rejected. Throws RangeError if a half is empty. See `outsideTest` for a control outside the draw.
 *
 * Source: Fisher, The Design of Experiments (1935), chapters II and III.
 *
 * @example randomisationTest(teaCups, 0.9, new Draws(1)).oneSided // 1 / 70: all eight cups told
 *   right
 */
export function randomisationTest(
  units: readonly Unit[],
  confidence: number,
  draws: Draws,
  outside: Outside = NOTHING_OUTSIDE,
): Randomised {
  if (!units.some(({ first }) => first) || units.every(({ first }) => first))
    throw new RangeError('Both halves need a unit.');
  const table = draws.of(units);
  if (outside.share < 1) return outsideTest(units, confidence, table, outside);
  const means = differences(units, table);
  const difference = differenceOf(units, 1);
  // The difference of each draw is linear in the supposed shift: its own, less the shift’s share in
  // it.
  const shifts = differences(
    units.map((unit) => ({ ...unit, value: Number(unit.first) })),
    table,
  );
  const rejectedAt = (shift: number) => pAt(means, shifts, shift, difference) <= 1 - confidence + ROUNDING;
  return {
    difference,
    twoSided: pAt(means, shifts, 0, difference),
    oneSided: beyond(means, difference),
    low: edge(difference, -1, means, rejectedAt),
    high: edge(difference, 1, means, rejectedAt),
    ...{ draws: means.length, exact: table.exact },
  };
}

/** How often a draw goes as far as the difference, in its direction. */
const beyond = (means: Float64Array, difference: number) =>
  means.filter((mean) => Math.sign(difference || 1) * (mean - difference) >= -ROUNDING).length / means.length;

/**
 * Randomisation test with a control outside the draw. The difference of the halves is subtracted,
 * and the residuals are redrawn within the blocks, each time with a normal error shared by all
 * units and at a plausible scale: the null distribution. The scale is that of the residuals,
 * moderated toward the known variances of the units. The shared error counts less the more the
 * halves are compared with each other.
 *
 * Sources, from memory: ter Braak, Permutation versus bootstrap significance tests (1992), for
 * residuals under the full model; Smyth, Statistical Applications in Genetics and Molecular Biology
 * 3 (2004), for moderated scales; Phipson and Smyth, ibid. 9 (2010), for p-values above zero.
 */
function outsideTest(
  units: readonly Unit[],
  confidence: number,
  table: DrawTable,
  { share, error, priorFreedom }: Outside,
): Randomised {
  const difference = differenceOf(units, share);
  const apart = differenceOf(units, 1);
  const left = units.map((unit) => (unit.first ? { ...unit, value: unit.value - apart } : unit));
  const scale = scaleOfUnits(left, priorFreedom);
  const nothing = withErrors(differences(left, table, share), error, scale);
  const sizes = nothing.map(Math.abs).sort();
  const count = sizes.length;
  const asLarge = (of: number) => count - firstAtLeast(sizes, of - ROUNDING);
  // The interval holds what the test does not reject: all up to the largest size that is not rare.
  const reach = sizes[Math.max(0, count - 1 - Math.floor((1 - confidence) * count + ROUNDING))]!;
  return {
    difference,
    twoSided: Math.max(1, asLarge(Math.abs(difference))) / count,
    oneSided: Math.max(1 / count, beyond(nothing, difference)),
    ...{ low: difference - reach, high: difference + reach },
    ...{ draws: count, exact: table.exact },
  };
}

/** The factor by which the draws are stretched, and its degrees of freedom. */
type Scale = { readonly stretch: number; readonly freedom: number };

/**
 * Moderated scale: residual variance within blocks, shrunk toward 1 (the known variances of the
 * units) by `priorFreedom`.
 */
function scaleOfUnits(left: readonly Unit[], priorFreedom: number): Scale {
  const blocks = new Map<number, Unit[]>();
  for (const unit of left) blocks.set(unit.block, [...(blocks.get(unit.block) ?? []), unit]);
  let squares = 0;
  for (const units of blocks.values()) {
    const weight = units.reduce((sum, unit) => sum + unit.weight, 0);
    const mean = units.reduce((sum, unit) => sum + unit.weight * unit.value, 0) / weight;
    squares += units.reduce((sum, unit) => sum + unit.weight * (unit.value - mean) ** 2, 0);
  }
  const own = Math.max(1, left.length - blocks.size - 1);
  const freedom = own + priorFreedom;
  // The permutation variance has one degree of freedom more than the residual variance.
  const drawn = squares / (own + 1);
  return { stretch: drawn > 0 ? Math.sqrt((squares + priorFreedom) / freedom / drawn) : 1, freedom };
}

/** Where the first of rising values is that is as large as a bound. */
function firstAtLeast(rising: Float64Array, bound: number): number {
  let [low, high] = [0, rising.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (rising[middle]! < bound) low = middle + 1;
    else high = middle;
  }
  return low;
}

const total = (column: Float64Array) => column.reduce((sum, one) => sum + one, 0);

/** Mean of the first half less `share` of the mean of the second. */
function differenceOf(units: readonly Unit[], share: number): number {
  const meanOf = (half: boolean) => {
    const own = units.filter(({ first }) => first === half);
    const weight = own.reduce((sum, unit) => sum + unit.weight, 0);
    return own.reduce((sum, unit) => sum + unit.weight * unit.value, 0) / weight;
  };
  return meanOf(true) - share * meanOf(false);
}

/**
 * The difference of the halves in each draw. The overall mean, which no draw changes, is subtracted
 * as far as the halves aren’t compared with each other.
 */
function differences(units: readonly Unit[], { count, sent, first }: DrawTable, share = 1): Float64Array {
  const weight = Float64Array.from(units, (unit) => unit.weight);
  const value = Float64Array.from(units, (unit) => unit.weight * unit.value);
  const [all, values] = [total(weight), total(value)];
  const means = new Float64Array(count);
  for (let i = 0, at = 0; i < count; i++) {
    let [own, sum] = [0, 0];
    for (const end = at + sent; at < end; at++) {
      const row = first[at]!;
      own += weight[row]!;
      sum += value[row]!;
    }
    means[i] = sum / own - (share * (values - sum)) / (all - own) - ((1 - share) * values) / all;
  }
  return means;
}

/**
 * Draws with a scale of their own, from a distribution with `freedom` degrees of freedom, and an
 * error shared by all units. Few draws are repeated, so that each meets errors of all sizes. Errors
 * and scales are quasi-random, independent of the order of the draws.
 */
function withErrors(means: Float64Array, error: number, { stretch, freedom }: Scale): Float64Array {
  const times = Math.max(1, Math.ceil(SAMPLED / means.length));
  return Float64Array.from({ length: times * means.length }, (_, i) => {
    const scale = stretch * scaleOf(evenNormal(i * Math.SQRT2), freedom);
    return scale * means[Math.floor(i / times)]! + error * evenNormal(i * GOLDEN);
  });
}

/**
 * The scale at a quantile of its distribution, which turns the normal distribution into Student’s.
 *
 * Source: Wilson and Hilferty, PNAS 17 (1931) 684-688, for the quantiles of chi-squared.
 */
function scaleOf(z: number, freedom: number): number {
  const part = 2 / (9 * freedom);
  return 1 / Math.sqrt(Math.max(0.01, 1 - part + z * Math.sqrt(part)) ** 3);
}

/** As many quantiles as tell the normal distribution, each in the middle of its share. */
const NORMAL = Float64Array.from({ length: 1000 }, (_, i) => normalQuantile((i + 0.5) / 1000));
/** Multiples of the golden section, or of the root of two, fill the range from 0 to 1 evenly. */
const GOLDEN = (Math.sqrt(5) - 1) / 2;
const evenNormal = (at: number) => NORMAL[Math.floor(1000 * (at % 1))]!;

function pAt(means: Float64Array, shifts: Float64Array, shift: number, difference: number): number {
  const observed = Math.abs(difference - shift) - ROUNDING;
  let count = 0;
  for (let i = 0; i < means.length; i++) {
    const drawn = means[i]! - shift * shifts[i]!;
    if (drawn >= observed || drawn <= -observed) count += 1;
  }
  return count / means.length;
}

/** Where the test begins to reject, on one side of the difference. */
function edge(
  difference: number,
  sign: 1 | -1,
  means: Float64Array,
  rejectedAt: (shift: number) => boolean,
): number {
  const spread = Math.sqrt(means.reduce((sum, mean) => sum + mean * mean, 0) / means.length) || 1e-6;
  let inside = difference;
  let step = spread;
  let outside = difference + sign * step;
  for (let i = 0; i < 30 && !rejectedAt(outside); i++) {
    inside = outside;
    step *= 2;
    outside = difference + sign * step;
    // With so few draws nothing is ever rejected.
    if (i === 29) return sign * Infinity;
  }
  for (let i = 0; i < 50; i++) {
    const middle = (inside + outside) / 2;
    if (rejectedAt(middle)) outside = middle;
    else inside = middle;
  }
  return inside;
}
