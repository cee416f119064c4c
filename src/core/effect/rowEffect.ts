/* The net effect of one row: its log ratio, less the control's, less what regresses to the mean. */

import type { Day } from '../calendar/day';
import type { Metric } from '../model/change';
import type { LogEffect } from './effect';
import type { LogRatios } from './logRatios';
import { byComponent, COMPONENTS_OF, type Component } from './components';
import { regressionToMean, strain, strained } from './regressionToMean';
import { noiseOf } from './placeboWindows';
import type { Rows } from './rows';
import { expectedReturn, coupled, withExtra, type Swing } from './swing';
import { untouchedRatios, type Room } from './untouched';
import { blend, poolMoves, type Pools } from './yardstick';

/** The net effect of one row on one metric, on the log scale. */
export type RowEffect = LogEffect & {
  readonly standardError: number;
  /** The yardstick's move, and the weight of the row's own group in it. */
  readonly yardstick: number;
  readonly own: number;
};

/** What the untouched pages did between the spans of a day, by part. */
export type DayPools = Readonly<Record<Component, Pools>>;

/** Pools what the untouched rows did between the spans of a day. `room` is written over. */
export function dayPools(rows: Rows, swing: Swing, day: Day, room: Room): DayPools {
  const { groups, roles } = rows;
  const { windowDays, settlingDays, parts } = swing;
  const { moves, fit } = untouchedRatios(
    rows,
    { day, windowDays, settlingDays },
    roles.yardstick,
    room,
    false,
  );
  return byComponent((part) =>
    poolMoves(moves[part], fit, groups.of, groups.count, parts[part].moments.move),
  );
}

/** Where a row stands: in the moves of a reading, in the history, and in which group. */
export type RowPlace = { readonly at: number; readonly row: number; readonly group: number };

/**
 * The net effect of one row on one metric: its move, less the yardstick's, less what comes by itself; null where the
 * metric is absent on a side.
 */
export function rowEffect(
  metric: Metric,
  moves: LogRatios,
  pools: DayPools,
  swing: Swing,
  place: RowPlace,
): RowEffect | null {
  if (Number.isNaN(moves[metric].move[place.at]!)) return null;
  const { extra, criticalValue, coupling } = swing.metrics[metric];
  const parts = COMPONENTS_OF[metric].map((part) => componentNet(part, moves, pools[part], swing, place));
  const sum = (of: 'net' | 'variance' | 'yardstick') => parts.reduce((total, part) => total + part[of], 0);
  const net = sum('net');
  const variance = coupled(sum('variance'), coupling);
  const standardError = Math.sqrt(withExtra(variance, extra[place.row]!));
  return {
    net,
    standardError,
    low: net - criticalValue * standardError,
    high: net + criticalValue * standardError,
    yardstick: sum('yardstick'),
    own: parts[0]!.own,
  };
}

function componentNet(
  part: Component,
  all: LogRatios,
  { groups, site }: Pools,
  swing: Swing,
  { at, group }: RowPlace,
) {
  const moves = all[part];
  const { moments, between, perStrain } = swing.parts[part];
  const yardstick = blend(groups[group]!, site, between);
  const noise = noiseOf(moves, at);
  const expected = regressionToMean(moments, noise);
  const dip = moves.dip[at]! - yardstick.dip;
  const recovered = expectedReturn(expected, noise, {
    dip,
    preTrend: moves.preTrend[at]! - yardstick.preTrend,
  });
  // CTR is absent without impressions, but as a part of clicks it still has its place.
  const move = part === 'ctr' ? all.clicks.move[at]! - all.impressions.move[at]! : moves.move[at]!;
  return {
    net: move - yardstick.move - recovered,
    variance: strained(expected.variance, strain(moments, noise, dip), perStrain),
    yardstick: yardstick.move,
    own: yardstick.own,
  };
}
