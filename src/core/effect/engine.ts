/* The engine: reads net effects from a site's history and keeps what it has learned. */

import { LRUCache } from 'lru-cache';
import { addDays, type Day } from '../calendar/day';
import { changeSpans, type Span } from '../calendar/span';
import type { History } from '../history/history';
import { Touched, type Touch } from '../history/touched';
import { averagePosition } from '../measures/totals';
import type { Metric } from '../model/change';
import { byMetric, type LogEffects } from './effect';
import {
  emptyLogRatios,
  LONG_DAYS,
  effectSpans,
  POSITION_NOISE,
  rowLogRatios,
  type LogRatios,
} from './logRatios';
import { dayPools, rowEffect, type DayPools, type RowEffect } from './rowEffect';
import { COMPONENTS_OF, type Component } from './components';
import { regressionToMean } from './regressionToMean';
import type { Groups, Roles, Rows } from './rows';
import { coupled, learnSwing, withExtra, type Swing } from './swing';
import { countPlaceboWindows, pooledEffect, type PlaceboCount } from './pooledEffect';
import { counterfactualPath, type CounterfactualPath } from './counterfactual';
import { untouchedRatios, makeRoom, UNFIT, type Room } from './untouched';
import { minimumDetectableRatio, type Showable } from './power';
import { rowWeight } from './yardstick';

/** What the untouched pages did, for the pages of a reading. Ratios after / before; position as the ratio of positions. */
export type YardstickMove = {
  readonly pages: number;
  /** Of these, how many are in the same part of the site, and the weight of that part, from 0 to 1. */
  readonly groupPages: number;
  readonly groupWeight: number;
  readonly move: Readonly<Record<Metric, number | null>>;
  /** Share of the variance of untouched pages' clicks that the yardstick takes away; below 0 it adds to it. */
  readonly tracking: number | null;
};

/** One page's own net effects. */
export type PageEffects = {
  readonly id: number;
  readonly effects: LogEffects;
  readonly positionAfter: number | null;
};

/** The net effects of the pages of a change, pooled where there are several. */
export type Effects = {
  readonly effects: LogEffects;
  readonly pages: readonly PageEffects[];
  readonly yardstick: YardstickMove;
  readonly spells: (metric: Metric) => PlaceboCount;
  /** How far clicks stood above their long level before the change, beyond the yardstick, in standard deviations. */
  readonly dip: number | null;
  /** The same of the last week before the change against the before span. */
  readonly preTrend: number | null;
};

/** Pools of so many days, and swings of so many lengths of spans, are kept. */
const MOST_DAYS = 2000;
const MOST_SWINGS = 24;

/** Reads the net effects of changes from the history of a site. What it has learned once it keeps. */
export class EffectEngine {
  private readonly rows: Rows;
  private readonly swings = new LRUCache<string, Swing>({ max: MOST_SWINGS });
  private readonly pools = new LRUCache<string, DayPools>({ max: MOST_DAYS });
  private readonly room: Room;
  private own = { rows: 1, moves: emptyLogRatios(1) };

  constructor(
    readonly history: History,
    groups: Groups,
    changes: readonly Touch[],
    private readonly lastReadable: Day,
    roles: Roles = { yardstick: history.rows, firstSubject: 0 },
  ) {
    this.room = makeRoom(history.rows);
    this.rows = { history, touched: new Touched(history, changes), groups, roles };
  }

  /** The ordinary swing for spans of `windowDays`. */
  swing(windowDays: number, settlingDays: number): Swing {
    return remember(this.swings, `${windowDays}/${settlingDays}`, () =>
      learnSwing(this.rows, { windowDays, settlingDays }, this.lastReadable),
    );
  }

  private poolsOf(day: Day, swing: Swing): DayPools {
    return remember(this.pools, `${day}/${swing.windowDays}/${swing.settlingDays}`, () =>
      dayPools(this.rows, swing, day, this.room),
    );
  }

  /** Room for the moves of a change's own rows; it is read at once and written over by the next. */
  private ownRoom(rows: number): LogRatios {
    if (this.own.rows < rows) this.own = { rows, moves: emptyLogRatios(rows) };
    return this.own.moves;
  }

  /** The net effects of a change made on `day` on the rows with these ids; null where none of them has figures. */
  read(day: Day, ids: readonly number[], windowDays: number, settlingDays: number): Effects | null {
    const rows = ids.flatMap((id) => this.history.row(id) ?? []);
    if (rows.length === 0) return null;
    const swing = this.swing(windowDays, settlingDays);
    const pools = this.poolsOf(day, swing);
    const moves = rowLogRatios(
      this.history,
      effectSpans(day, windowDays, settlingDays),
      rows,
      this.ownRoom(rows.length),
    );
    const nets = rows.map((row, at) =>
      byMetric((metric) =>
        rowEffect(metric, moves, pools, swing, { at, row, group: this.rows.groups.of[row]! }),
      ),
    );
    const effects = byMetric((metric) => {
      const known = nets.flatMap((net, i) => (net[metric] ? [{ net: net[metric], row: rows[i]! }] : []));
      return known.length === 0 ? null : pooledEffect(metric, known, swing, this.history.rows);
    });
    return {
      effects,
      pages: rows.map((row, i) => ({
        id: this.history.idOf(row),
        effects: nets[i]!,
        positionAfter: averagePosition(
          this.history.totals(row, changeSpans(day, windowDays, settlingDays).after),
        ),
      })),
      yardstick: this.yardstick(pools, swing, rows, nets),
      spells: (metric) => countPlaceboWindows(metric, effects[metric], rows, swing, this.history.rows),
      ...this.past(moves, rows.length, pools, swing),
    };
  }

  private yardstick(
    pools: DayPools,
    swing: Swing,
    rows: readonly number[],
    nets: readonly Readonly<Record<Metric, RowEffect | null>>[],
  ): YardstickMove {
    const inGroups = new Set(rows.map((row) => this.rows.groups.of[row]!));
    // Pages with enough clicks to tell a CTR: for the impressions alone there may be more.
    const groups = [...inGroups].map((group) => pools.ctr.groups[group]!);
    return {
      pages: pools.ctr.site.pages,
      groupPages: groups.reduce((sum, group) => sum + group.pages, 0),
      groupWeight: nets.reduce((sum, net) => sum + (net.clicks?.own ?? 0), 0) / nets.length,
      move: byMetric((metric) => {
        if (COMPONENTS_OF[metric].some((part) => pools[part].site.pages === 0)) return null;
        const known = nets.flatMap((net) => net[metric] ?? []);
        if (known.length === 0) return null;
        return known.reduce((sum, net) => sum + net.yardstick, 0) / known.length;
      }),
      tracking: swing.parts.impressions.tracking,
    };
  }

  /** Whether the clicks of the pages stood out before the change was made. */
  private past(moves: LogRatios, rows: number, pools: DayPools, { parts }: Swing) {
    const standing = (
      of: 'dip' | 'preTrend',
      noises: readonly ('noiseBefore' | 'noiseLong' | 'noisePreTrend')[],
    ) => {
      let [sum, spread] = [0, 0];
      for (const part of COMPONENTS_OF.clicks) {
        for (let at = 0; at < rows; at++) {
          const value = moves[part][of][at]! - pools[part].site[of];
          if (Number.isNaN(value)) return null;
          sum += value;
          spread += parts[part].moments[of];
          for (const noise of noises) spread += moves[part][noise][at]!;
        }
      }
      return spread > 0 ? sum / Math.sqrt(spread) : null;
    };
    return {
      dip: standing('dip', ['noiseBefore', 'noiseLong']),
      preTrend: standing('preTrend', ['noisePreTrend']),
    };
  }

  /** The ids of the pages that make up the yardstick for a change made on `day`. */
  yardstickIds(day: Day, windowDays: number, settlingDays: number): number[] {
    const { history, roles } = this.rows;
    const at = { day, windowDays, settlingDays };
    const { moves, fit } = untouchedRatios(this.rows, at, roles.yardstick, this.room, false);
    const spread = this.swing(windowDays, settlingDays).parts.ctr.moments.move;
    return [...fit.keys()]
      .filter((row) => fit[row] !== UNFIT && rowWeight(moves.ctr, row, spread) > 0)
      .map((row) => history.idOf(row));
  }

  /** The path of the yardstick over the days shown, for the rows with these ids; null where none of them has figures. */
  path(
    day: Day,
    ids: readonly number[],
    windowDays: number,
    settlingDays: number,
    shown: Span,
  ): CounterfactualPath | null {
    const row = ids.map((id) => this.history.row(id)).find((known) => known !== undefined);
    if (row === undefined) return null;
    const { rows, room } = this;
    const at = { day, windowDays, settlingDays };
    const column = untouchedRatios(rows, at, rows.roles.yardstick, room, false);
    const swing = this.swing(windowDays, settlingDays);
    const group = rows.groups.of[row]!;
    return counterfactualPath(rows, { column, group, swing, day, shown }, room);
  }

  /**
   * The smallest effect these rows could show in spans of each length, with 80% power, at the level of the days just
   * before `day`. Empty where they have no figures.
   */
  showable(
    metric: Metric,
    day: Day,
    ids: readonly number[],
    lengths: readonly number[],
    settlingDays: number,
  ): Showable[] {
    const rows = ids.flatMap((id) => this.history.row(id) ?? []);
    const lastDay = Math.min(day - 1, this.lastReadable) as Day;
    const recent: Span = { firstDay: addDays(lastDay, 1 - 56), lastDay };
    const covered = this.history.covered(recent);
    if (rows.length === 0 || covered < 7) return [];
    return lengths.flatMap((windowDays) => {
      const swing = this.swing(windowDays, settlingDays);
      const { extra, criticalValue, coupling } = swing.metrics[metric];
      let weight = 0;
      for (const row of rows) {
        const { clicks, impressions } = this.history.totals(row, recent);
        const apart = COMPONENTS_OF[metric].reduce((sum, part) => {
          const noise = (days: number) => countingNoise(part, clicks / covered, impressions / covered, days);
          const expected = regressionToMean(swing.parts[part].moments, {
            before: noise(windowDays),
            after: noise(windowDays),
            long: noise(LONG_DAYS),
            preTrend: null,
          });
          return sum + expected.variance;
        }, 0);
        weight += 1 / withExtra(coupled(apart, coupling), extra[row]!);
      }
      return weight > 0
        ? { windowDays, ratio: minimumDetectableRatio(Math.sqrt(1 / weight), criticalValue) }
        : [];
    });
  }
}

/** Counting noise of a span of so many days at a daily level. */
function countingNoise(part: Component, clicks: number, impressions: number, days: number): number {
  const [ofClicks, ofImpressions] = [1 / (clicks * days + 0.5), 1 / (impressions * days + 0.5)];
  if (part === 'ctr') return Math.max(0, ofClicks - ofImpressions);
  return part === 'position' ? POSITION_NOISE * ofImpressions : ofImpressions;
}

/** What a cache holds under a key, made at the first call. */
function remember<T extends object>(kept: LRUCache<string, T>, key: string, make: () => T): T {
  const known = kept.get(key);
  if (known !== undefined) return known;
  const made = make();
  kept.set(key, made);
  return made;
}
