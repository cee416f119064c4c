import type { Day } from '../calendar/day';
import type { History } from '../history/history';
import type { Touched } from '../history/touched';
import type { Metric } from '../model/change';
import type { LogEffect } from './effect';
import type { Moves } from './moves';
import { byPart, PARTS_OF, type Part } from './parts';
import { recovery, strain, strained } from './recovery';
import { noiseOf, type Groups, type Roles } from './spells';
import { byItself, coupled, withExtra, type Swing } from './swing';
import { compareRows, type Room } from './untouched';
import { blend, poolMoves, type Pools } from './yardstick';

/** The net effect of one row on one metric, on the log scale. */
export type RowNet = LogEffect & {
  readonly standardError: number;
  /** The yardstick's move, and the weight of the row's own group in it. */
  readonly yardstick: number;
  readonly own: number;
};

/** What the untouched pages did between the spans of a day, by part. */
export type DayPools = Readonly<Record<Part, Pools>>;

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
  const { windowDays, settlingDays, parts } = swing;
  const count = roles.yardstick;
  const { moves, fit } = compareRows(history, touched, day, windowDays, settlingDays, count, room, false);
  return byPart((part) => poolMoves(moves[part], fit, groups.of, groups.count, parts[part].moments.move));
}

/** Where a row stands: in the moves of a reading, in the history, and in which group. */
export type RowPlace = { readonly at: number; readonly row: number; readonly group: number };

/**
 * The net effect of one row on one metric: its move, less the yardstick's, less what comes by itself; null where the
 * metric is absent on a side.
 */
export function rowNet(
  metric: Metric,
  moves: Moves,
  pools: DayPools,
  swing: Swing,
  place: RowPlace,
): RowNet | null {
  if (Number.isNaN(moves[metric].move[place.at]!)) return null;
  const { extra, reach, coupling } = swing.metrics[metric];
  const parts = PARTS_OF[metric].map((part) => partNet(part, moves, pools[part], swing, place));
  const sum = (of: 'net' | 'variance' | 'yardstick') => parts.reduce((total, part) => total + part[of], 0);
  const net = sum('net');
  const variance = coupled(sum('variance'), coupling);
  const standardError = Math.sqrt(withExtra(variance, extra[place.row]!));
  return {
    net,
    standardError,
    low: net - reach * standardError,
    high: net + reach * standardError,
    yardstick: sum('yardstick'),
    own: parts[0]!.own,
  };
}

function partNet(part: Part, all: Moves, { groups, site }: Pools, swing: Swing, { at, group }: RowPlace) {
  const moves = all[part];
  const { moments, between, perStrain } = swing.parts[part];
  const yardstick = blend(groups[group]!, site, between);
  const noise = noiseOf(moves, at);
  const expected = recovery(moments, noise);
  const dip = moves.dip[at]! - yardstick.dip;
  const recovered = byItself(expected, noise, { dip, lean: moves.lean[at]! - yardstick.lean });
  // CTR is absent without impressions, but as a part of clicks it still has its place.
  const move = part === 'ctr' ? all.clicks.move[at]! - all.impressions.move[at]! : moves.move[at]!;
  return {
    net: move - yardstick.move - recovered,
    variance: strained(expected.variance, strain(moments, noise, dip), perStrain),
    yardstick: yardstick.move,
    own: yardstick.own,
  };
}
