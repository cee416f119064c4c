/* Which marks of a change of title go with how much: a regression drawn toward nothing. */

import { inverse, Matrix } from 'ml-matrix';
import { CONFIDENCE, normalQuantile } from '../statistics/normal';
import type { Scored } from './scorebookModel';
import { TITLE_CHANGE_MARKS, type TitleChangeMark } from './titleChange';

/** Effect of a title feature, with all other features equal, on the log scale. */
export type MarkEffect = {
  readonly mark: TitleChangeMark;
  /** How many changes have it. */
  readonly changes: number;
  readonly net: number;
  readonly low: number;
  readonly high: number;
};

/** A mark has to be on so many changes, and missing on as many, before anything is said of it. */
export const FEWEST_WITH_MARK = 10;
/** How far marks are thought to differ before anything is known: a standard deviation of 10%. */
const PRIOR_DEVIATION = 0.1;

/**
 * Regresses effects on appeal on title features, weighted by the variance and the spread between
 * changes, with a normal prior at zero on the coefficients. Only features that at least ten changes
 * have and ten haven’t. Empty if there is none.
 */
export function markEffects(scored: readonly Scored[], between: number): MarkEffect[] {
  const known = scored.flatMap(({ estimates: { appeal }, marks }) => (appeal ? [{ appeal, marks }] : []));
  const counted = (mark: TitleChangeMark) => known.filter(({ marks }) => marks.includes(mark)).length;
  const marks = TITLE_CHANGE_MARKS.filter(
    (mark) => Math.min(counted(mark), known.length - counted(mark)) >= FEWEST_WITH_MARK,
  );
  if (marks.length === 0) return [];
  const x = new Matrix(known.map((one) => [1, ...marks.map((mark) => Number(one.marks.includes(mark)))]));
  const weights = known.map(({ appeal }) => 1 / (appeal.variance + between));
  const weighted = x.clone().mulColumnVector(weights).transpose();
  const precision = weighted.mmul(x);
  // The level itself is free; only the marks are drawn toward nought.
  marks.forEach((_, i) =>
    precision.set(i + 1, i + 1, precision.get(i + 1, i + 1) + 1 / PRIOR_DEVIATION ** 2),
  );
  const covariance = inverse(precision);
  const nets = covariance.mmul(weighted.mmul(Matrix.columnVector(known.map(({ appeal }) => appeal.net))));
  const reach = normalQuantile((1 + CONFIDENCE) / 2);
  return marks.map((mark, i) => {
    const net = nets.get(i + 1, 0);
    const half = reach * Math.sqrt(covariance.get(i + 1, i + 1));
    return { mark, changes: counted(mark), net, low: net - half, high: net + half };
  });
}
