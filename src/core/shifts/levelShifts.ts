/*
 * Level shifts of a page, query or group: change points of daily clicks, net of the rest of the
 * site.
 */

import type { Day } from '../calendar/day';
import { changePoints } from './partition';

/** Clicks by day, and expected clicks: its usual level times the movement of the site. */
export type NetDays = {
  readonly firstDay: Day;
  readonly clicks: ArrayLike<number>;
  readonly expected: ArrayLike<number>;
};

/** A day at which the level shifted, the range of days, and the factor with its 90% range. */
export type LevelShift = {
  readonly day: Day;
  readonly firstDay: Day;
  readonly lastDay: Day;
  readonly ratio: number;
  readonly low: number;
  readonly high: number;
  /**
   * The factor from three weeks on either side only: near 1 if a season or drift was taken for a
   * step.
   */
  readonly local: number;
};

/** Stretches are no shorter than two weeks. */
const LEAST_DAYS = 14;
/**
 * Penalty of a change point, in twice the log likelihood: a site without shifts shows one in twenty
 * page-years (docs/openings.md).
 */
const PENALTY = 19;
const WEEK = 7;
const MONTH = 28;
/** The variance of a day's count over its expectation, roughly. */
const DISPERSION = 1.5;
/** The median absolute deviation of a normal distribution in standard deviations. */
const MAD = 0.6745;
const Z90 = 1.645;
/** Rows with fewer clicks a day than this on average have no level that could be seen to shift. */
const FEWEST_A_DAY = 1;

/**
 * Level shifts of a row. Days are weighted by monthly, not daily variation, since slow drift is no
 * shift.
 *
 * @param wander usual variation of the site’s rows (see `wanderOf`); the row’s own if larger
 */
export function levelShifts(days: NetDays, wander: number): LevelShift[] {
  const logs = netLogs(days);
  if (!logs) return [];
  const own = Math.max(wanderOf(days) ?? 0, wander);
  const { values, weights } = logs;
  // The variance of one day such that a month of days wanders as far as months do.
  const excess = own * MONTH;
  const scaled = weights.map((weight) => (weight > 0 ? 1 / (1 / weight + excess) : 0));
  const found = changePoints({ values, weights: scaled }, PENALTY, LEAST_DAYS, 'given');
  return found.map((point, i) => {
    const log = point.after - point.before;
    const half = Z90 * Math.sqrt(point.variance);
    const within = [found[i - 1]?.at ?? 0, found[i + 1]?.at ?? values.length] as const;
    const at = sharpened(logs, point.at, within);
    const moved = at - point.at;
    return {
      day: (days.firstDay + at) as Day,
      firstDay: (days.firstDay + Math.min(at, point.first + moved)) as Day,
      lastDay: (days.firstDay + Math.max(at, point.last + moved)) as Day,
      ratio: Math.exp(log),
      low: Math.exp(log - half),
      high: Math.exp(log + half),
      local: Math.exp(localStep(logs, at)),
    };
  });
}

/** Days on either side of a shift in which its day is located: too few for much drift. */
const NEAR = 21;

/**
 * The day of a shift, from nearby days and their counting noise: the best split into two levels.
 */
function sharpened(
  { values, weights }: { readonly values: Float64Array; readonly weights: Float64Array },
  at: number,
  [begin, end]: readonly [number, number],
): number {
  const [from, to] = [Math.max(begin, at - NEAR), Math.min(end, at + NEAR)];
  let [best, most] = [at, -Infinity];
  for (let place = from + 4; place <= to - 4; place++) {
    const [a, b] = [mean(values, weights, from, place), mean(values, weights, place, to)];
    const split = (a.weight * b.weight * (a.mean - b.mean) ** 2) / (a.weight + b.weight);
    if (split > most) [best, most] = [place, split];
  }
  return best;
}

/** The difference of the levels of the days near a place. */
function localStep({ values, weights }: { values: Float64Array; weights: Float64Array }, at: number): number {
  const before = mean(values, weights, Math.max(0, at - NEAR), at).mean;
  return mean(values, weights, at, Math.min(values.length, at + NEAR)).mean - before;
}

function mean(values: Float64Array, weights: Float64Array, from: number, to: number) {
  let [sum, weight] = [0, 1e-9];
  for (let i = from; i < to; i++) {
    sum += weights[i]! * values[i]!;
    weight += weights[i]!;
  }
  return { mean: sum / weight, weight };
}

/**
 * Log ratio of clicks to expected clicks by day, and its weight (inverse counting variance); null
 * with too few clicks.
 */
function netLogs({ clicks, expected }: NetDays): { values: Float64Array; weights: Float64Array } | null {
  const n = clicks.length;
  let [total, base] = [0, 0];
  for (let i = 0; i < n; i++) {
    if (!(expected[i]! > 0)) continue;
    total += clicks[i]!;
    base += expected[i]!;
  }
  if (base === 0 || total < FEWEST_A_DAY * n) return null;
  const [values, weights] = [new Float64Array(n), new Float64Array(n)];
  // Weekly counts around each day: the log of a few daily clicks is meaningless.
  for (let i = 0; i < n; i++) {
    if (!(expected[i]! > 0)) continue;
    // Fortnightly counts around each day: the log of a few daily clicks is meaningless.
    const level = localLevel(clicks, expected, i);
    const fitted = level * expected[i]!;
    values[i] = Math.log(level) + (clicks[i]! - fitted) / Math.max(fitted, 1e-9);
    weights[i] = fitted / DISPERSION;
  }
  return { values, weights };
}

function localLevel(clicks: ArrayLike<number>, expected: ArrayLike<number>, at: number): number {
  let [c, e] = [0.5, 0];
  for (let i = Math.max(0, at - WEEK); i <= Math.min(clicks.length - 1, at + WEEK); i++) {
    if (!(expected[i]! > 0)) continue;
    c += clicks[i]!;
    e += expected[i]!;
  }
  return c / Math.max(e, 1e-9);
}

/**
 * Variance of a row’s monthly log level beyond counting, from month to month: half the squared
 * median absolute difference, so that a few real shifts don’t hide themselves. Null with too few
 * months.
 *
 * Source: Rousseeuw and Croux, JASA 88 (1993), the median absolute deviation as a scale.
 */
export function wanderOf({ clicks, expected }: NetDays): number | null {
  const months: { log: number; noise: number }[] = [];
  for (let from = 0; from + MONTH <= clicks.length; from += WEEK) {
    let [c, e] = [0, 0];
    for (let i = from; i < from + MONTH; i++) {
      if (!(expected[i]! > 0)) continue;
      c += clicks[i]!;
      e += expected[i]!;
    }
    months.push(c > 0 && e > 0 ? { log: Math.log(c / e), noise: DISPERSION / c } : { log: NaN, noise: NaN });
  }
  const differences: number[] = [];
  const noises: number[] = [];
  for (let i = 0; i + MONTH / WEEK < months.length; i++) {
    const [a, b] = [months[i]!, months[i + MONTH / WEEK]!];
    const difference = Math.abs(b.log - a.log);
    if (Number.isNaN(difference)) continue;
    differences.push(difference);
    noises.push(a.noise + b.noise);
  }
  if (differences.length < 6) return null;
  const scale = median(differences) / MAD;
  return Math.max(0, (scale * scale - median(noises)) / 2);
}

function median(values: number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  const middle = sorted.length >> 1;
  return sorted.length % 2 === 1 ? sorted[middle]! : (sorted[middle - 1]! + sorted[middle]!) / 2;
}

/** How far the rows of a site usually wander: the median of their own. */
export function usualWander(rows: Iterable<NetDays>): number {
  const known = [...rows].flatMap((row) => wanderOf(row) ?? []);
  return known.length === 0 ? 0.004 : median(known);
}

/** Cap on the weight of a page in the movement of the site, in multiples of the median. */
const MOST_TIMES = 3;

const ROUNDS = 6;

/**
 * Expected clicks of each row by day: its own level times the movement of the other rows, none of
 * which weighs more than a few median ones. Levels and days are fitted by alternation (count =
 * level × day), each row from its first clicks on, so that a new page isn’t a rise of the others. 0
 * before a row begins.
 *
 * @param rows clicks by row and day, all from the same first day
 */
export function expectedOfOthers(rows: readonly ArrayLike<number>[]): Float64Array[] {
  const days = Math.max(0, ...rows.map((row) => row.length));
  const begins = rows.map((row) => {
    let at = 0;
    while (at < row.length && !(row[at]! > 0)) at += 1;
    return at;
  });
  const sums = rows.map((row) => {
    let sum = 0;
    for (let i = 0; i < row.length; i++) sum += row[i]!;
    return sum;
  });
  const means = sums.map((sum, r) => sum / Math.max(1, days - begins[r]!));
  const positive = means.filter((mean) => mean > 0);
  const most = positive.length > 0 ? MOST_TIMES * median(positive) : 0;
  const share = means.map((mean) => (mean > 0 ? Math.min(1, most / mean) : 0));
  const levels = Float64Array.from(means);
  const [sum, base] = [new Float64Array(days), new Float64Array(days)];
  rows.forEach((row, r) => {
    for (let i = 0; i < row.length; i++) sum[i]! += share[r]! * row[i]!;
  });
  for (let round = 0; round < ROUNDS; round++) {
    base.fill(0);
    levels.forEach((level, r) => {
      for (let i = begins[r]!; i < days; i++) base[i]! += share[r]! * level;
    });
    levels.forEach((_, r) => {
      let movement = 0;
      for (let i = begins[r]!; i < days; i++) movement += base[i]! > 0 ? sum[i]! / base[i]! : 1;
      levels[r] = movement > 0 ? sums[r]! / movement : 0;
    });
  }
  return rows.map((row, r) => {
    const others = Float64Array.from({ length: days }, (_, i) => {
      if (i < begins[r]!) return 0;
      const rest = base[i]! - share[r]! * levels[r]!;
      return rest > 0 ? (sum[i]! - share[r]! * (row[i] ?? 0)) / rest : 1;
    });
    const movement = others.reduce((a, b) => a + b, 0);
    const level = movement > 0 ? sums[r]! / movement : 0;
    return others.map((value) => level * value);
  });
}

/** Standard errors by which a part must have moved relative to the rest to be mentioned. */
const PLAINLY = 2;

/**
 * Factor by which rows moved together at a place relative to the rest: three weeks after against
 * three before. Null if they didn’t plainly move, or there are none.
 *
 * @example sharedMove([[9, 9, 3, 3]], [[5, 5, 5, 5]], 2) // 0.33, if weeks were days
 */
export function sharedMove(
  rows: readonly ArrayLike<number>[],
  rest: readonly ArrayLike<number>[],
  at: number,
): number | null {
  const sum = (of: readonly ArrayLike<number>[], from: number, to: number) => {
    let total = 0;
    for (const row of of) for (let i = Math.max(0, from); i < Math.min(row.length, to); i++) total += row[i]!;
    return total;
  };
  const sides = [rows, rest].flatMap((of) => [sum(of, at, at + NEAR), sum(of, at - NEAR, at)]);
  if (rows.length === 0 || sides.some((one) => one === 0)) return null;
  const [after, before, restAfter, restBefore] = sides as [number, number, number, number];
  const move = Math.log(after / before / (restAfter / restBefore));
  const error = Math.sqrt(sides.reduce((total, one) => total + DISPERSION / one, 0));
  return Math.abs(move) > PLAINLY * error ? Math.exp(move) : null;
}
