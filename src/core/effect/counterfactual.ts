/* The counterfactual path: what the control did day by day, at the level that the subject had before. */

import { addDays, type Day } from '../calendar/day';
import type { Span } from '../calendar/span';
import { METRICS, type Metric } from '../model/change';
import { byMetric } from './effect';
import { bareLogRatios, effectSpans } from './logRatios';
import { byComponent, COMPONENTS_OF } from './components';
import type { Rows } from './rows';
import type { Swing } from './swing';
import { FIT, type Column, type Room } from './untouched';
import { blend, poolMoves } from './yardstick';

/** Days before and after the middle of the week over which a day of the path is taken, to leave the weekday out. */
const HALF_WEEK = 3;

/** The path of the yardstick: by metric, a log ratio to the level of the before span for each day; null where unknown. */
export type CounterfactualPath = Readonly<Record<Metric, readonly (number | null)[]>>;

/** Whose path it is: the moves of a reading's own spans, its group, its day, and the days shown. */
export type PathTask = {
  readonly column: Column;
  readonly group: number;
  readonly swing: Swing;
  readonly day: Day;
  readonly shown: Span;
};

/**
 * What the untouched pages did day by day, as the log of their level over the week around each day against the before
 * span. `column` holds the moves of a reading's own spans, by which rows are weighed; `room` is written over.
 */
export function counterfactualPath(
  { history, groups }: Pick<Rows, 'history' | 'groups'>,
  { column, group, swing, day, shown }: PathTask,
  room: Room,
): CounterfactualPath {
  const spans = effectSpans(day, swing.windowDays, swing.settlingDays);
  const weigh = column.moves;
  const fit = column.fit.map((value) => (value === FIT ? 1 : 0));
  const path = byMetric((): (number | null)[] => []);
  for (let at = shown.firstDay; at <= shown.lastDay; at = addDays(at, 1)) {
    const after = { firstDay: addDays(at, -HALF_WEEK), lastDay: addDays(at, HALF_WEEK) };
    const days = history.covered(after);
    const perDay = Math.log(history.covered(spans.before) / days);
    const known = days >= 4 && Number.isFinite(perDay);
    if (known) bareLogRatios(history, { ...spans, after }, fit.length, room.short);
    const logs = byComponent((part) => {
      if (!known) return null;
      const moves = { ...weigh[part], move: room.short[part].move };
      const { between, moments } = swing.parts[part];
      const pools = poolMoves(moves, fit, groups.of, groups.count, moments.move);
      if (pools.site.pages === 0) return null;
      return blend(pools.groups[group]!, pools.site, between).move + (part === 'impressions' ? perDay : 0);
    });
    for (const metric of METRICS) {
      const parts = COMPONENTS_OF[metric].map((part) => logs[part]);
      path[metric].push(
        parts.reduce<number | null>((sum, log) => (sum === null || log === null ? null : sum + log), 0),
      );
    }
  }
  return path;
}
