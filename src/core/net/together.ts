import type { Metric } from '../model/change';
import { randomEffects } from '../statistics/randomEffects';
import type { LogEffect } from './effect';
import type { RowNet } from './net';
import type { Swing } from './swing';

/** Ordinary spells of the pages of a reading, and how many moved at least as far. */
export type SpellCount = { readonly spells: number; readonly asLarge: number };

/** Spells apart from each other at which what several pages did together counts as much as what each did by itself. */
const TRUSTED_SPELLS = 6;

/**
 * Several pages' net effects as one: the random-effects mean of the pages. Their errors go together in part (they share
 * a yardstick), so its variance is also held against how far the same pages together moved in ordinary spells.
 */
export function poolRows(
  metric: Metric,
  known: readonly { readonly net: RowNet; readonly row: number }[],
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
  const together = spellMoves(
    metric,
    known.map(({ row }) => row),
    swing,
    allRows,
  );
  const seen = together.reduce((sum, move) => sum + move * move, 0) / Math.max(1, together.length);
  const apart = together.length / swing.overlapping;
  const own = apart / (apart + TRUSTED_SPELLS);
  const variance = Math.max(pooled.standardError ** 2, own * seen + (1 - own) * pooled.standardError ** 2);
  const half = swing.metrics[metric].reach * Math.sqrt(variance);
  return { net: pooled.mean, low: pooled.mean - half, high: pooled.mean + half };
}

/** The net moves of some rows together, for every ordinary spell in which at least half of them were untouched. */
function spellMoves(metric: Metric, rows: readonly number[], swing: Swing, allRows: number): number[] {
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

/** How many ordinary spells these rows have together, and in how many of them they moved at least as far as `effect`. */
export function countSpells(
  metric: Metric,
  effect: LogEffect | null,
  rows: readonly number[],
  swing: Swing,
  allRows: number,
): SpellCount {
  const moves = spellMoves(metric, rows, swing, allRows);
  const size = effect ? Math.abs(effect.net) : Infinity;
  return { spells: moves.length, asLarge: moves.filter((move) => Math.abs(move) >= size).length };
}
