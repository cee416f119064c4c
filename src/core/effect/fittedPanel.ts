/*
 * The fitted panel of a site: weekly panels, groups, covariances and forecasts by component, made
 * on first use.
 */

import { LRUCache } from 'lru-cache';
import { addDays, asDay, type Day } from '../calendar/day';
import type { Component } from '../measures/registry';
import { controlOf, controlWeight, eachGroup, heldAgainst, type Held } from './control';
import { fitCovariance } from './covariance';
import { emptyInnovations, Forecaster, Past, type ForecastWorking, type Innovations } from './forecast';
import { withoutGroupMoves } from './groupMoves';
import type { Horizon } from './kriging';
import { groupsThatMoveTogether } from './movingTogether';
import type { Groups, Rows } from './rows';
import { untouched } from './untouched';
import { WEEK_SPREAD, weekOf, weeklyPanel, type WeeklyPanel } from './weekly';

/** Groups are refitted to the weeks before each of these days, counted back from the newest. */
const EPOCH_DAYS = 84;
/** So many panels are kept: a few hundred kilobytes each on a large site. */
const MOST_ADJUSTED = 300;
/** Days before a change that are looked at where there are no weeks. */
const USUAL_DAYS = 28;
/** Days, and how far apart, over which the two kinds of groups are held against each other. */
const [TRIED_DAYS, TRIED_STEP] = [6, 49];

/** The groups of a site's rows as they were known on a day. */
export type GroupsThen = { readonly epoch: number; readonly groups: Groups; readonly learned: boolean };

/**
 * The weeks behind the forecast of a row, newest first. `common` is the site and group effect of a
 * week: a log that is subtracted from levels, or a factor of the denominator of rates.
 */
export type PastWorking = {
  readonly weeks: readonly { readonly firstDay: Day; readonly common: number }[];
  readonly forecast: ForecastWorking;
};

export class FittedPanel {
  private readonly panels = new Map<string, WeeklyPanel>();
  /** Panels less group effects, one for each time that groups were fitted. */
  private readonly adjusted = new LRUCache<string, WeeklyPanel>({ max: MOST_ADJUSTED });
  private readonly epochs = new Map<number, GroupsThen>();
  private readonly forecasters = new Map<Component, Forecaster>();
  /** Whether groups are learned from the movement, or those stated or shown by the path serve. */
  private learnsGroups = true;

  /** `lastDay` is the newest day that may be read: nothing after it is looked at. */
  constructor(
    readonly rows: Rows,
    readonly lastDay: Day,
  ) {
    this.learnsGroups = this.movementTellsMore();
  }

  /** Groups as of a day. Only earlier weeks are used, so a change cannot choose its own control. */
  groupsAt(day: Day): GroupsThen {
    const grid = this.lastDay + 1;
    const epoch = this.learnsGroups ? Math.max(0, Math.ceil((grid - day) / EPOCH_DAYS)) : 0;
    let known = this.epochs.get(epoch);
    if (!known) {
      const { rows } = this;
      const until = asDay(grid - EPOCH_DAYS * epoch);
      const learned = this.learnsGroups
        ? groupsThatMoveTogether(weeklyPanel('impressions', rows, until, until), controlBySize(rows, until))
        : null;
      known = { epoch, groups: learned ?? rows.groups, learned: learned !== null };
      this.epochs.set(epoch, known);
    }
    return known;
  }

  forecaster(component: Component): Forecaster {
    let known = this.forecasters.get(component);
    if (!known) {
      const { rows } = this;
      const grid = addDays(this.lastDay, 1);
      const covariance = fitCovariance(this.panelWithoutGroups(component, grid), rows.learnedFrom);
      known = new Forecaster(component, rows, covariance);
      this.forecasters.set(component, known);
    }
    return known;
  }

  /** The weekly panel of which a week begins on a day. */
  private panel(component: Component, day: Day): WeeklyPanel {
    return remembered(this.panels, `${component}/${phaseOf(day)}`, () =>
      weeklyPanel(component, this.rows, day),
    );
  }

  /** The same less the movement of the groups known on that day. */
  private panelWithoutGroups(component: Component, day: Day): WeeklyPanel {
    const { epoch, groups } = this.groupsAt(day);
    const key = `${component}/${phaseOf(day)}/${epoch}`;
    let known = this.adjusted.get(key);
    if (!known) {
      known = withoutGroupMoves(this.panel(component, day), groups, this.rows.control);
      this.adjusted.set(key, known);
    }
    return known;
  }

  /** How a component of some rows came out over a horizon, in their order. */
  innovations(component: Component, day: Day, horizon: Horizon, list: ArrayLike<number>): Innovations {
    return this.innovationsOver(component, day, [horizon], list)[0]!;
  }

  /** The same over several horizons after one day: the weeks before it are gathered once. */
  innovationsOver(
    component: Component,
    day: Day,
    horizons: readonly Horizon[],
    list: ArrayLike<number>,
  ): Innovations[] {
    const forecaster = this.forecaster(component);
    const panel = this.panelWithoutGroups(component, day);
    const reaches = horizons.map((horizon) => forecaster.reach(day, horizon));
    const all = horizons.map(() => emptyInnovations(list.length));
    const beforeDays = horizons.at(-1)!.days;
    for (let at = 0; at < list.length; at++) {
      if (!forecaster.past(panel, list[at]!, day, beforeDays, this.past)) continue;
      for (let i = 0; i < reaches.length; i++)
        if (reaches[i]) forecaster.innovation(list[at]!, reaches[i]!, this.past, all[i]!, at);
    }
    return all;
  }
  private readonly past = new Past();

  /**
   * Deviations of a row before a day; null if there are too few weeks. The next call overwrites
   * them.
   */
  pastOf(component: Component, row: number, day: Day): Past | null {
    const { past } = this;
    const panel = this.panelWithoutGroups(component, day);
    return this.forecaster(component).past(panel, row, day, USUAL_DAYS, past) ? past : null;
  }

  /**
   * The weeks of a row before a day as its forecast uses them, for the workbook; null if there are
   * none.
   */
  workingOf(component: Component, row: number, day: Day, beforeDays: number): PastWorking | null {
    const { history } = this.rows;
    const panel = this.panelWithoutGroups(component, day);
    const forecaster = this.forecaster(component);
    if (!forecaster.past(panel, row, day, beforeDays, this.past)) return null;
    const weeks = Array.from({ length: this.past.weeks }, (_, i) => {
      const firstDay = addDays(panel.firstDay, 7 * this.past.at[i]!);
      const at = row * panel.weeks + this.past.at[i]!;
      const plain = weekOf(history, component, row, firstDay);
      return { firstDay, common: panel.isRate ? panel.base[at]! / plain : plain - panel.value[at]! };
    });
    return { weeks, forecast: forecaster.workingOf(this.past) };
  }

  /** Whether learned groups explain more of the control rows’ movement than the given groups. */
  private movementTellsMore(): boolean {
    const horizon: Horizon = { settlingDays: 7, days: 28 };
    const left = (learns: boolean) => {
      this.learnsGroups = learns;
      this.epochs.clear();
      this.adjusted.clear();
      this.forecasters.clear();
      return this.unexplained(horizon);
    };
    const given = left(false);
    const learned = left(true);
    const better = learned < given;
    if (!better) left(false);
    return better;
  }

  private unexplained(horizon: Horizon): number {
    const { history, control } = this.rows;
    const list = Array.from({ length: history.rows }, (_, row) => row);
    let sum = 0;
    const last = this.lastDay + 1 - horizon.settlingDays - horizon.days;
    for (let i = 0, day = last; i < TRIED_DAYS && day > history.firstDay + 84; i++, day -= TRIED_STEP) {
      const innovations = this.innovations('showings', asDay(day), horizon, list);
      const { groups } = this.groupsAt(asDay(day));
      const share = untouched(this.rows, asDay(day), horizon).map((fit, row) => fit * control[row]!);
      const pooled = controlOf(innovations, share, groups);
      let [between, weights] = [0, 0];
      eachGroup(pooled, (deviation, variance) => {
        between += (deviation * deviation - variance) / variance;
        weights += 1 / variance;
      });
      const spread = weights > 0 ? Math.max(0, between / weights) : 0;
      for (const row of list) {
        if (share[row] === 0) continue;
        const own = { weight: controlWeight(innovations, row), move: innovations.move[row]! };
        if (own.weight === 0) continue;
        heldAgainst(pooled, groups.of[row]!, spread, own, this.held);
        sum += (own.move - this.held.move) ** 2 / (WEEK_SPREAD + innovations.noise[row]!);
      }
    }
    return sum;
  }
  private readonly held: Held = { move: 0, variance: 0, own: 0 };
}

/** The control rows by what they were shown up to a day: an order that is the figures' own. */
function controlBySize({ history, control }: Rows, until: Day): number[] {
  const { clicks, impressions } = history.sums;
  const at = history.offset(until) * history.rows;
  const list = [...control.keys()].filter((row) => control[row] !== 0);
  return list.sort(
    (a, b) => impressions[at + b]! - impressions[at + a]! || clicks[at + b]! - clicks[at + a]!,
  );
}

const phaseOf = (day: Day) => ((day % 7) + 7) % 7;

function remembered<T>(kept: Map<string, T>, key: string, make: () => T): T {
  let known = kept.get(key);
  if (known === undefined) kept.set(key, (known = make()));
  return known;
}
