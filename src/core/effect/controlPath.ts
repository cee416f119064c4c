/*
 * The counterfactual path: the movement of the control between spans and day by day, at the level
 * that the subject had before.
 */

import type { Span } from '../calendar/span';
import type { History } from '../history/history';
import { isRate, type Component } from '../measures/registry';
import { ownShare } from './control';
import type { Groups } from './rows';
import { columnsOf, levelBetween, type Level } from './weekly';

/** The rows of a control with their weights in one component, and their groups. */
export type Weighed = {
  readonly rows: ArrayLike<number>;
  /** One for each of the rows. */
  readonly weights: Float64Array;
  readonly groups: Groups;
  /** Variance of a group's innovation about the site's, by which a group is pulled toward it. */
  readonly between: number;
};

/**
 * Log ratio of the level of a control between two spans, as it applies to a row of a group; null if
 * no row has both. Rates are pooled over all rows, since single ones are mostly noise.
 */
export function controlRatio(
  history: History,
  component: Component,
  weighed: Weighed,
  group: number,
  before: Span,
  after: Span,
): number | null {
  const { rows, weights, groups, between } = weighed;
  const sides = [before, after].map((span) => ({
    from: history.offset(span.firstDay),
    to: history.offset(span.lastDay + 1),
    days: history.covered(span),
  }));
  const [was, became] = sides as [(typeof sides)[number], (typeof sides)[number]];
  if (was.days === 0 || became.days === 0) return null;
  if (isRate(component)) return rateRatio(history, component, weighed, was, became);
  const columns = columnsOf(history, component);
  const [all, own] = [new Mean(), new Mean()];
  const [first, second]: [Level, Level] = [
    { value: 0, noise: 0 },
    { value: 0, noise: 0 },
  ];
  for (let i = 0; i < rows.length; i++) {
    const row = rows[i]!;
    if (weights[i] === 0) continue;
    levelBetween(history, component, columns, row, was, first);
    levelBetween(history, component, columns, row, became, second);
    const move = second.value - first.value;
    if (move !== move) continue;
    all.add(weights[i]!, move);
    if (groups.of[row] === group) own.add(weights[i]!, move);
  }
  if (all.weight === 0) return null;
  const share = ownShare(own.weight, between);
  return own.weight > 0 ? share * own.value + (1 - share) * all.value : all.value;
}

type Side = { readonly from: number; readonly to: number };

function rateRatio(
  history: History,
  component: Component,
  { rows, weights }: Weighed,
  before: Side,
  after: Side,
): number | null {
  const { of, against } = columnsOf(history, component);
  const rate = ({ from, to }: Side) => {
    let [sum, base] = [0.5, 0.5];
    for (let i = 0; i < rows.length; i++) {
      const row = rows[i]!;
      if (weights[i] === 0) continue;
      sum += of[to * history.rows + row]! - of[from * history.rows + row]!;
      base += against![to * history.rows + row]! - against![from * history.rows + row]!;
    }
    return base > 0.5 ? sum / base : NaN;
  };
  const ratio = Math.log(rate(after) / rate(before));
  return Number.isNaN(ratio) ? null : ratio;
}

class Mean {
  weight = 0;
  private sum = 0;

  add(weight: number, value: number): void {
    this.weight += weight;
    this.sum += weight * value;
  }

  get value(): number {
    return this.sum / this.weight;
  }
}
