import { SAMPLED, type Draws, type DrawTable, type Placed } from './draws';
import { normalQuantile } from './normal';

/** Something that was drawn into one of two halves: its value, and what it weighs. */
export type Unit = Placed & { readonly value: number; readonly weight: number };

/**
 * What the halves are held against besides each other: units outside the draw, whose mean is nought. The first half is held against the mean of the second
 * with the weight `share` and against nought with the rest; all units together lie off nought by as much as `error`, a standard deviation. Weights are one over the units'
 * variances, which are as reliable as an estimate with `priorFreedom` degrees of freedom.
 */
export type Outside = { readonly share: number; readonly error: number; readonly priorFreedom: number };

/** Halves that are held against each other alone. */
const NOTHING_OUTSIDE: Outside = { share: 1, error: 0, priorFreedom: 0 };

/** What a randomisation test finds. */
export type Randomised = {
  /** Weighted mean of the first half less that of the second, or less what stands in for it. */
  readonly difference: number;
  /** How often the draw alone brings a difference at least as large either way, and in this direction. */
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
 * Tests the difference of two halves against the draw that made them: every other draw within the blocks was as likely. The interval is by inversion:
 * the shifts of the first half that the test does not reject. Throws RangeError where a half is empty.
 * With something `outside` that the halves are held against too see `outsideTest`.
 * Source: Fisher, The Design of Experiments (1935), chapters II and III.
 * @example randomisationTest(teaCups, 0.9, new Draws(1)).oneSided // 1 / 70 where all eight cups are told right
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
  // Shifted by what is supposed, every draw's difference is linear in it: its own less the share that the shift has in it.
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
 * The same with something outside the draw. What the first half did beyond the second is taken off it, and what is left is drawn anew within the blocks, each
 * time with an error that all units have in common, from the normal distribution, and at a scale that such units could have: what would be seen
 * of nothing. The scale is that of what is left, drawn toward that of the units' known variances. The more the halves are held against each other, the less the common
 * error counts.
 * Sources, from memory: ter Braak, Permutation versus bootstrap significance tests (1992), for residuals under the full model; Smyth, Statistical Applications in Genetics
 * and Molecular Biology 3 (2004), for a scale that is moderated so; Phipson and Smyth, ibid. 9 (2010), for a p-value that is never nought.
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
  // The range is what a test at the level does not reject: all that lies within the largest of the sizes that is not rare.
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

/** The moderated scale: the residual variance within blocks, shrunk toward 1 (the units' known variances) in proportion to `priorFreedom`. */
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
  // The permutation distribution divides by one degree of freedom more than the residual variance does.
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

/** The mean of the first half less that of the second, or less `share` of it where the rest is held against nought. */
function differenceOf(units: readonly Unit[], share: number): number {
  const meanOf = (half: boolean) => {
    const own = units.filter(({ first }) => first === half);
    const weight = own.reduce((sum, unit) => sum + unit.weight, 0);
    return own.reduce((sum, unit) => sum + unit.weight * unit.value, 0) / weight;
  };
  return meanOf(true) - share * meanOf(false);
}

/** For each draw the difference of the values. The mean of all units, which no draw changes, is taken off as far as the halves are not held against each other. */
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
 * The draws, each at a scale of its own, as the scale of so many degrees of freedom is known, and with an error of all units in common. Few draws are taken several
 * times, so that each meets errors of all sizes; these go through their distributions evenly, in an order that has nothing to do with that of the draws.
 */
function withErrors(means: Float64Array, error: number, { stretch, freedom }: Scale): Float64Array {
  const times = Math.max(1, Math.ceil(SAMPLED / means.length));
  return Float64Array.from({ length: times * means.length }, (_, i) => {
    const scale = stretch * scaleOf(evenNormal(i * Math.SQRT2), freedom);
    return scale * means[Math.floor(i / times)]! + error * evenNormal(i * GOLDEN);
  });
}

/**
 * The scale at a quantile of its distribution: that which makes the normal distribution into Student's.
 * Source: Wilson and Hilferty, PNAS 17 (1931) 684-688, for the quantiles of chi-squared.
 */
function scaleOf(z: number, freedom: number): number {
  const part = 2 / (9 * freedom);
  return 1 / Math.sqrt(Math.max(0.01, 1 - part + z * Math.sqrt(part)) ** 3);
}

/** As many quantiles as tell the normal distribution, each in the middle of its share. */
const NORMAL = Float64Array.from({ length: 1000 }, (_, i) => normalQuantile((i + 0.5) / 1000));
/** Multiples of the golden section go through the numbers from 0 to 1 evenly, wherever one stops; so do those of the root of two. */
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
