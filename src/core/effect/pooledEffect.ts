/* The pooled effect of several pages: a random-effects mean whose variance allows for a shared control. */

import type { Metric } from '../model/change';
import { randomEffects } from '../statistics/randomEffects';
import type { LogEffect } from './effect';
import type { RowEffect } from './rowEffect';
import type { Swing } from './swing';

/** Placebo windows of the pages of a reading, and how many moved at least as far. */
export type PlaceboCount = { readonly spells: number; readonly asLarge: number };

/** Windows apart from each other at which what several pages did together counts as much as what each did by itself. */
const TRUSTED_WINDOWS = 6;

/**
 * Several pages' net effects as one: the random-effects mean of the pages. Their errors go together in part (they share
 * a yardstick), so its variance is also held against how far the same pages together moved in placebo windows.
 */
export function pooledEffect(
  metric: Metric,
  known: readonly { readonly net: RowEffect; readonly row: number }[],
  swing: Swing,
  allRows: number,
): LogEffect {
  const [only, ...others] = known;
  if (only && others.length === 0) return only.net;
  const variances = known.map(({ net }) => net.standardError ** 2);
  const pooled = randomEffects(
    known.map(({ net }) => net.net),
    variances,
  );
  const together = placeboMoves(
    metric,
    known.map(({ row }) => row),
    swing,
    allRows,
  );
  const seen = together.reduce((sum, move) => sum + move * move, 0) / Math.max(1, together.length);
  const apart = together.length / swing.overlapping;
  const own = apart / (apart + TRUSTED_WINDOWS);
  const variance = Math.max(pooled.standardError ** 2, own * seen + (1 - own) * pooled.standardError ** 2);
  const half = swing.metrics[metric].criticalValue * Math.sqrt(variance);
  return { net: pooled.mean, low: pooled.mean - half, high: pooled.mean + half };
}

/** The net moves of some rows together, for every placebo window in which at least half of them were untouched. */
function placeboMoves(metric: Metric, rows: readonly number[], swing: Swing, allRows: number): number[] {
  const { residuals } = swing.metrics[metric];
  const moves: number[] = [];
  for (let column = 0; column < swing.days.length; column++) {
    let [sum, count] = [0, 0];
    for (const row of rows) {
      const net = residuals[column * allRows + row]!;
      if (Number.isNaN(net)) continue;
      sum += net;
      count += 1;
    }
    if (count > 0 && count * 2 >= rows.length) moves.push(sum / count);
  }
  return moves;
}

/** How many placebo windows these rows have together, and in how many of them they moved at least as far as `effect`. */
export function countPlaceboWindows(
  metric: Metric,
  effect: LogEffect | null,
  rows: readonly number[],
  swing: Swing,
  allRows: number,
): PlaceboCount {
  const moves = placeboMoves(metric, rows, swing, allRows);
  const size = effect ? Math.abs(effect.net) : Infinity;
  return { spells: moves.length, asLarge: moves.filter((move) => Math.abs(move) >= size).length };
}
