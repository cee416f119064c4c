import type { Day } from '../calendar/day';
import type { History } from '../history/history';
import type { Touched } from '../history/touched';
import type { Metric } from '../model/change';
import type { Moves } from './moves';
import { recovery } from './recovery';
import { byItself, noiseOf, withExtra, type Groups, type Swing } from './swing';
import { compareRows } from './untouched';
import { blend, poolMoves, type Pools } from './yardstick';

/** The net effect of one row on one metric, on the log scale. */
export type RowNet = {
  readonly net: number;
  readonly standardError: number;
  readonly low: number;
  readonly high: number;
  /** The yardstick's move, and what of the row's own move is put down to recovering by itself. */
  readonly yardstick: number;
  readonly recovered: number;
};

/** What every row did between two spans, with the pools of the untouched ones. */
export type Comparable = { readonly moves: Moves; readonly pools: Readonly<Record<Metric, Pools>> };

/** Compares all rows between the spans of a day and pools the untouched. */
export function comparable(
  history: History,
  touched: Touched,
  groups: Groups,
  swing: Swing,
  day: Day,
): Comparable {
  const { windowDays, settlingDays } = swing;
  const { moves, fit } = compareRows(history, touched, day, windowDays, settlingDays);
  const pool = (metric: Metric) =>
    poolMoves(moves[metric], fit, groups.of, groups.count, swing.metrics[metric].moments.move);
  return {
    moves,
    pools: {
      clicks: pool('clicks'),
      impressions: pool('impressions'),
      ctr: pool('ctr'),
      position: pool('position'),
    },
  };
}

/** The net effect of one row on one metric; null where the metric is absent on a side. */
export function rowNet(
  metric: Metric,
  { moves: all, pools }: Comparable,
  groups: Groups,
  swing: Swing,
  row: number,
): RowNet | null {
  const moves = all[metric];
  const { moments, between, extra, reach } = swing.metrics[metric];
  const move = moves.move[row]!;
  if (move !== move) return null;
  const yardstick = blend(pools[metric].groups[groups.of[row]!]!, pools[metric].site, between);
  const noise = noiseOf(moves, row);
  const expected = recovery(moments, noise);
  const recovered = byItself(expected, noise, {
    dip: moves.dip[row]! - yardstick.dip,
    lean: moves.lean[row]! - yardstick.lean,
  });
  const net = move - yardstick.move - recovered;
  const standardError = Math.sqrt(withExtra(expected.variance, extra[row]!));
  return {
    net,
    standardError,
    low: net - reach * standardError,
    high: net + reach * standardError,
    yardstick: yardstick.move,
    recovered,
  };
}
