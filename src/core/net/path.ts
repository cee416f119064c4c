import { addDays, type Day } from '../calendar/day';
import type { Span } from '../calendar/span';
import type { History } from '../history/history';
import { METRICS, type Metric } from '../model/change';
import { byMetric } from './effect';
import { bareMoves, moveSpans } from './moves';
import { byPart, PARTS_OF } from './parts';
import type { Swing } from './swing';
import { FIT, type Column, type Room } from './untouched';
import { blend, poolMoves } from './yardstick';

/** Days before and after the middle of the week over which a day of the path is taken, to leave the weekday out. */
const HALF_WEEK = 3;

/** The path of the yardstick: by metric, a log ratio to the level of the before span for each day; null where unknown. */
export type Path = Readonly<Record<Metric, readonly (number | null)[]>>;

/**
 * What the untouched pages did day by day, as the log of their level over the week around each day against the before
 * span. `column` holds the moves of a reading's own spans, by which rows are weighed; `room` is written over.
 */
export function yardstickPath(
  history: History,
  column: Column,
  groupOf: ArrayLike<number>,
  groups: number,
  group: number,
  swing: Swing,
  day: Day,
  shown: Span,
  room: Room,
): Path {
  const spans = moveSpans(day, swing.windowDays, swing.settlingDays);
  const weigh = column.moves;
  const fit = column.fit.map((value) => (value === FIT ? 1 : 0));
  const path = byMetric((): (number | null)[] => []);
  for (let at = shown.firstDay; at <= shown.lastDay; at = addDays(at, 1)) {
    const after = { firstDay: addDays(at, -HALF_WEEK), lastDay: addDays(at, HALF_WEEK) };
    const days = history.covered(after);
    const perDay = Math.log(history.covered(spans.before) / days);
    const known = days >= 4 && Number.isFinite(perDay);
    if (known) bareMoves(history, { ...spans, after }, fit.length, room.short);
    const logs = byPart((part) => {
      if (!known) return null;
      const moves = { ...weigh[part], move: room.short[part].move };
      const { between, moments } = swing.parts[part];
      const pools = poolMoves(moves, fit, groupOf, groups, moments.move);
      if (pools.site.pages === 0) return null;
      return blend(pools.groups[group]!, pools.site, between).move + (part === 'impressions' ? perDay : 0);
    });
    for (const metric of METRICS) {
      const parts = PARTS_OF[metric].map((part) => logs[part]);
      path[metric].push(
        parts.reduce<number | null>((sum, log) => (sum === null || log === null ? null : sum + log), 0),
      );
    }
  }
  return path;
}
