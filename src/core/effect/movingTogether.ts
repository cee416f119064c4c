/*
 * Groups of rows that move together: mixtures of several sizes, average co-membership, and average
 * linkage cut at one half.
 */

import { randomLcg } from 'd3-random';
import { agnes } from 'ml-hclust';
import { mixtureOf, type Movements } from './mixture';
import type { Groups } from './rows';
import { eachDeviation, type WeeklyPanel } from './weekly';

/** Sizes of the mixtures, and how often each is begun anew. */
const SIZES = [3, 5, 7] as const;
const STARTS = 3;
const CUT = 0.5;
/**
 * Share of a week’s deviation that rows carry into the next week; taken off, since the rest shows
 * better which rows move together.
 */
const CARRIED = 0.6;
const [FEWEST_WEEKS, MOST_WEEKS] = [12, 52];
/** Among fewer rows than this chance makes up groups. */
const FEWEST_LISTED = 12;
/** Fewer rows than this are no group. */
const FEWEST_ROWS = 3;

/**
 * Groups the rows of a panel; null if there are too few rows or weeks. Groups are found among the
 * rows of `list`; each other row joins the one whose mean it follows best. Rows that follow none,
 * or too small a group, form group 0.
 */
export function groupsThatMoveTogether(panel: WeeklyPanel, list: readonly number[]): Groups | null {
  const { weeks } = panel;
  if (weeks < FEWEST_WEEKS || list.length < FEWEST_LISTED) return null;
  const movements = movementsOf(panel, Math.max(0, weeks - MOST_WEEKS), weeks);
  const clusters = agnes(distances(among(movements, list)), { method: 'average', isDistanceMatrix: true })
    .cut(1 - CUT)
    .map((cluster) => cluster.indices().map((index) => list[index]!))
    .filter((rows) => rows.length >= FEWEST_ROWS)
    .sort((a, b) => b.length - a.length || list.indexOf(a[0]!) - list.indexOf(b[0]!));
  const of = new Int32Array(panel.rows);
  clusters.forEach((rows, i) => rows.forEach((row) => (of[row] = i + 1)));
  const means = clusters.map((rows) => meanOf(movements, rows));
  const listed = new Set(list);
  for (let row = 0; row < panel.rows; row++) if (!listed.has(row)) of[row] = nearest(movements, row, means);
  return { of, count: clusters.length + 1 };
}

/** Each week of the rows less what the week before let expect. */
function movementsOf(panel: WeeklyPanel, from: number, to: number): Movements {
  const dimensions = to - from;
  const level = new Float64Array(panel.rows * dimensions).fill(NaN);
  const noises = new Float64Array(panel.rows * dimensions);
  const everyRow = new Uint8Array(panel.rows).fill(1);
  eachDeviation(panel, everyRow, ({ row, week, value, noise }) => {
    if (week < from || week >= to) return;
    level[row * dimensions + week - from] = value;
    noises[row * dimensions + week - from] = noise;
  });
  const value = level.map((own, at) => (at % dimensions === 0 ? NaN : own - CARRIED * level[at - 1]!));
  return { rows: panel.rows, dimensions, value, noise: noises.map((noise) => (1 + CARRIED ** 2) * noise) };
}

function among({ dimensions, value, noise }: Movements, list: readonly number[]): Movements {
  const take = (from: Float64Array) =>
    Float64Array.from({ length: list.length * dimensions }, (_, at) => {
      const row = list[Math.floor(at / dimensions)]!;
      return from[row * dimensions + (at % dimensions)]!;
    });
  return { rows: list.length, dimensions, value: take(value), noise: take(noise) };
}

/** Variance of a week about the mean of a group, roughly; it only sets weights. */
const USUAL_SPREAD = 0.01;

function meanOf({ dimensions, value, noise }: Movements, rows: readonly number[]): Float64Array {
  return Float64Array.from({ length: dimensions }, (_, d) => {
    let [sum, weights] = [0, 1 / USUAL_SPREAD];
    for (const row of rows) {
      const at = row * dimensions + d;
      if (value[at] !== value[at]) continue;
      const weight = 1 / (USUAL_SPREAD + noise[at]!);
      sum += weight * value[at]!;
      weights += weight;
    }
    return sum / weights;
  });
}

/** Number of the group whose mean a row follows best; 0 if none fits better than no movement. */
function nearest(movements: Movements, row: number, means: readonly Float64Array[]): number {
  const { dimensions, value, noise } = movements;
  const misfits = [new Float64Array(dimensions), ...means].map((mean) => {
    let sum = 0;
    for (let d = 0; d < dimensions; d++) {
      const at = row * dimensions + d;
      if (value[at] === value[at]) sum += (value[at]! - mean[d]!) ** 2 / (USUAL_SPREAD + noise[at]!);
    }
    return sum;
  });
  return misfits.indexOf(Math.min(...misfits));
}

/** One less how often two rows fall into the same component, over all mixtures. */
function distances(movements: Movements): number[][] {
  const { rows } = movements;
  const apart = Array.from({ length: rows }, () => new Array<number>(rows).fill(1));
  // The same figures always give the same groups.
  const random = randomLcg(0.42);
  const share = 1 / (SIZES.length * STARTS);
  for (const size of SIZES) {
    const k = Math.min(size, rows);
    for (let start = 0; start < STARTS; start++) {
      const belongs = mixtureOf(movements, k, random);
      for (let a = 0; a < rows; a++) {
        for (let b = 0; b < a; b++) {
          let same = 0;
          for (let c = 0; c < k; c++) same += belongs[a * k + c]! * belongs[b * k + c]!;
          apart[a]![b]! -= share * same;
        }
      }
    }
  }
  for (let a = 0; a < rows; a++) {
    apart[a]![a] = 0;
    for (let b = 0; b < a; b++) apart[b]![a] = apart[a]![b] = Math.max(0, apart[a]![b]!);
  }
  return apart;
}
