import type { Day } from '../calendar/day';
import type { History } from '../history/history';
import type { Touched } from '../history/touched';
import type { Metric } from '../model/change';
import { byMetric, type LogEffect } from './effect';
import type { MetricMoves } from './moves';
import { recovery } from './recovery';
import { noiseOf, type Groups, type Roles } from './spells';
import { byItself, withExtra, type Swing } from './swing';
import { compareRows, type Room } from './untouched';
import { blend, poolMoves, type Pools } from './yardstick';

/** The net effect of one row on one metric, on the log scale. */
export type RowNet = LogEffect & {
  readonly standardError: number;
  /** The yardstick's move, the weight of the row's own group in it, and what of the move is put down to recovering. */
  readonly yardstick: number;
  readonly own: number;
  readonly recovered: number;
};

/** What the untouched pages did between the spans of a day, by metric. */
export type DayPools = Readonly<Record<Metric, Pools>>;

/** Pools what the untouched rows did between the spans of a day. `room` is written over. */
export function dayPools(
  history: History,
  touched: Touched,
  groups: Groups,
  roles: Roles,
  swing: Swing,
  day: Day,
  room: Room,
): DayPools {
  const { windowDays, settlingDays, metrics } = swing;
  const count = roles.yardstick;
  const { moves, fit } = compareRows(history, touched, day, windowDays, settlingDays, count, room, false);
  return byMetric((metric) =>
    poolMoves(moves[metric], fit, groups.of, groups.count, metrics[metric].moments.move),
  );
}

/**
 * The net effect of one row on one metric: its move, less the yardstick's, less what comes by itself; null where absent.
 * `at` is where the row stands in `moves`, `row` where it stands in the history, `group` the number of its group.
 */
export function rowNet(
  metric: Metric,
  moves: MetricMoves,
  at: number,
  { groups, site }: Pools,
  group: number,
  swing: Swing,
  row: number,
): RowNet | null {
  const { moments, between, extra, reach } = swing.metrics[metric];
  const move = moves.move[at]!;
  if (Number.isNaN(move)) return null;
  const yardstick = blend(groups[group]!, site, between);
  const noise = noiseOf(moves, at);
  const expected = recovery(moments, noise);
  const recovered = byItself(expected, noise, {
    dip: moves.dip[at]! - yardstick.dip,
    lean: moves.lean[at]! - yardstick.lean,
  });
  const net = move - yardstick.move - recovered;
  const standardError = Math.sqrt(withExtra(expected.variance, extra[row]!));
  return {
    net,
    standardError,
    low: net - reach * standardError,
    high: net + reach * standardError,
    yardstick: yardstick.move,
    own: yardstick.own,
    recovered,
  };
}
