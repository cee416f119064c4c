/*
 * Forecasts of rows from their own past by kriging, and their innovations (outcome less forecast).
 */

import type { Day } from '../calendar/day';
import type { History } from '../history/history';
import { isRate, type Component } from '../measures/registry';
import type { Covariance } from './covariance';
import { Kriging, type Horizon } from './kriging';
import type { Rows } from './rows';
import { columnsOf, levelBetween, PAST_WEEKS, type Level, type WeeklyPanel } from './weekly';

/** Weeks before a change that a forecast needs; with fewer, only the before span is used. */
const FEWEST_WEEKS = 3;
/** So many weeks of a new level are enough to leave what was before it aside. */
const FEWEST_OF_LEVEL = 4;
/** Recent weeks whose level, against all weeks, is the dip. The last week gives the pre-trend. */
export const DIP_WEEKS = 4;
/** Weeks at the end of the past from which it is told how much is going to be counted. */
const RECENT_WEEKS = 8;
/** No forecast of a rate is further from its level than by these factors. */
export const [LOWEST, HIGHEST] = [0.2, 3];

/** A row's weeks before a day, the last first, as deviations from their level. */
export class Past {
  weeks = 0;
  level = 0;
  noise = 0;
  /** Counting variance of the last weeks, expected of the weeks to come as well. */
  recentNoise = 0;
  /** How far they were out of the ordinary, 0 on average. */
  strain = 0;
  readonly deviations = new Float64Array(PAST_WEEKS);
  /** The weeks of the panel that they are. */
  readonly at = new Int32Array(PAST_WEEKS);
}

/**
 * Innovations of rows: outcome less forecast. `move` is a log ratio for levels and a ratio less one
 * for rates; NaN if absent. `variance` is the forecast variance and `noise` the counting variance.
 * `expected` and `seen` are the forecast and actual clicks of a rate. `strain` says how unusual the
 * past weeks were, 0 on average.
 */
export type Innovations = Readonly<
  Record<'move' | 'variance' | 'noise' | 'expected' | 'seen' | 'strain', Float64Array>
>;

/** Room for the innovations of so many rows. @example emptyInnovations(2).move // [NaN, NaN] */
export function emptyInnovations(rows: number): Innovations {
  const column = () => new Float64Array(rows);
  return {
    ...{ move: column().fill(NaN), variance: column(), noise: column() },
    ...{ expected: column(), seen: column(), strain: column() },
  };
}

/** How far a row stood out before a change, in standard deviations of what is usual. */
export type Standing = { readonly dip: number; readonly preTrend: number };

/** The days of a horizon as offsets of a history, and how many of them have figures. */
export type Reach = {
  readonly horizon: Horizon;
  readonly from: number;
  readonly to: number;
  readonly days: number;
};

/**
 * Inputs of a forecast: its weeks, their noise class, their inverse covariance, the variance of a
 * dip (null with too few weeks), and the pooled rate of the control rows.
 */
export type ForecastWorking = {
  readonly weeks: number;
  readonly noise: number;
  readonly inverse: readonly (readonly number[])[];
  readonly dipVariance: number | null;
  readonly overall: number;
};

/** Forecasts one component of the rows of a site. */
export class Forecaster {
  private readonly isRate: boolean;
  private readonly kriging: Kriging;
  private readonly columns: ReturnType<typeof columnsOf>;
  /** The rate of all control rows together, to which a row without clicks is held. */
  private readonly overall: number;
  private readonly level: Level = { value: 0, noise: 0 };

  constructor(
    private readonly component: Component,
    private readonly rows: Rows,
    readonly covariance: Covariance,
  ) {
    this.isRate = isRate(component);
    this.kriging = new Kriging(covariance);
    this.columns = columnsOf(rows.history, component);
    this.overall = this.isRate ? overallRate(rows.history, component, rows.control) : 0;
  }

  /**
   * Fills `into` with the weeks of a row before `day`, on which a week of the panel (less group
   * effects) begins. Sites with almost no weeks use the level of the `beforeDays` days before it.
   * Returns whether the row has figures there.
   */
  past(panel: WeeklyPanel, row: number, day: Day, beforeDays: number, into: Past): boolean {
    const { weeks, value, cut } = panel;
    const next = Math.min(weeks, (day - panel.firstDay) / 7);
    if (next < FEWEST_WEEKS) return this.plainPast(row, day, beforeDays, into);
    let count = 0;
    for (let week = next - 1; week >= 0 && count < PAST_WEEKS; week--) {
      const at = row * weeks + week;
      if (value[at] === value[at]) into.at[count++] = week;
      // Of a level that has only just begun, the time before it still tells something.
      if (cut[at] === 1 && count >= FEWEST_OF_LEVEL) break;
    }
    if (count === 0) return false;
    into.weeks = count;
    if (this.isRate) this.pastRate(panel, row, into);
    else this.pastLevel(panel, row, into);
    into.strain = this.strain(into);
    return true;
  }

  private plainPast(row: number, day: Day, beforeDays: number, into: Past): boolean {
    const { history } = this.rows;
    const span = { firstDay: (day - beforeDays) as Day, lastDay: (day - 1) as Day };
    const days = history.covered(span);
    const [from, to] = [history.offset(span.firstDay), history.offset(day)];
    if (days === 0) return false;
    into.weeks = 0;
    into.strain = 0;
    if (this.isRate) {
      const { of, against } = this.columns;
      const over = (sums: Float64Array) => sums[to * history.rows + row]! - sums[from * history.rows + row]!;
      const [clicks, base] = [over(of), over(against!)];
      if (base <= 0) return false;
      into.level = clicks > 0 ? clicks / base : 0.5 / (base + 0.5 / this.overall);
      into.noise = 1 / (clicks + 0.5);
    } else {
      levelBetween(history, this.component, this.columns, row, { from, to, days }, this.level);
      into.level = this.level.value;
      into.noise = this.level.noise;
    }
    into.recentNoise = into.noise;
    return into.level === into.level;
  }

  private pastRate({ weeks, value, base }: WeeklyPanel, row: number, into: Past): void {
    let [clicks, against, recent] = [0, 0, 0];
    const last = Math.min(RECENT_WEEKS, into.weeks);
    for (let i = 0; i < into.weeks; i++) {
      const at = row * weeks + into.at[i]!;
      clicks += value[at]!;
      into.deviations[i] = base[at]!;
      against += into.deviations[i]!;
      if (i < last) recent += into.deviations[i]!;
    }
    // Half a click at the site's rate is added, so that a row without any still has one.
    into.level = (clicks + 0.5) / (against + 0.5 / this.overall);
    into.noise = into.weeks / Math.max(1e-9, into.level * against);
    into.recentNoise = last / Math.max(1e-9, into.level * recent);
    for (let i = 0; i < into.weeks; i++) {
      const expected = into.level * into.deviations[i]!;
      into.deviations[i] = expected > 0 ? value[row * weeks + into.at[i]!]! / expected - 1 : 0;
    }
  }

  private pastLevel({ weeks, value, noise }: WeeklyPanel, row: number, into: Past): void {
    let [sum, noises, recent] = [0, 0, 0];
    const last = Math.min(RECENT_WEEKS, into.weeks);
    for (let i = 0; i < into.weeks; i++) {
      const at = row * weeks + into.at[i]!;
      into.deviations[i] = value[at]!;
      sum += into.deviations[i]!;
      noises += noise[at]!;
      if (i < last) recent += noise[at]!;
    }
    into.level = sum / into.weeks;
    into.noise = noises / into.weeks;
    into.recentNoise = recent / last;
    for (let i = 0; i < into.weeks; i++) into.deviations[i]! -= into.level;
  }

  /** Offsets of the days of a horizon in the history; null if too few of them have figures. */
  reach(day: Day, horizon: Horizon): Reach | null {
    const { history } = this.rows;
    const firstDay = (day + horizon.settlingDays) as Day;
    const lastDay = (firstDay + horizon.days - 1) as Day;
    const days = history.covered({ firstDay, lastDay });
    if (days * 2 < horizon.days) return null;
    return { horizon, days, from: history.offset(firstDay), to: history.offset(lastDay + 1) };
  }

  /** How a row came out over a horizon, given its past; written to place `at` of `into`. */
  innovation(row: number, reach: Reach, past: Past, into: Innovations, at: number): void {
    const { history } = this.rows;
    const { dispersion } = this.covariance;
    const { weights, variance } = this.kriging.predict(
      Math.max(1, past.weeks),
      dispersion * past.noise,
      reach.horizon,
    );
    let deviation = 0;
    for (let i = 0; i < past.weeks; i++) deviation += weights[i]! * past.deviations[i]!;
    into.variance[at] = variance;
    into.strain[at] = past.strain;
    if (this.isRate) {
      const { of, against } = this.columns;
      const [first, last] = [reach.from * history.rows + row, reach.to * history.rows + row];
      const forecast = past.level * Math.min(HIGHEST, Math.max(LOWEST, 1 + deviation));
      into.expected[at] = forecast * (against![last]! - against![first]!);
      into.seen[at] = of[last]! - of[first]!;
      into.noise[at] = dispersion / (into.expected[at]! + 0.5);
      into.move[at] = into.expected[at]! > 0 ? into.seen[at]! / into.expected[at]! - 1 : NaN;
    } else {
      levelBetween(history, this.component, this.columns, row, reach, this.level);
      into.noise[at] = dispersion * this.level.noise;
      into.move[at] = this.level.value - past.level - deviation;
    }
  }

  /** What a forecast from a past is made of besides the past's own weeks. */
  workingOf(past: Past): ForecastWorking {
    const { dispersion } = this.covariance;
    const weeks = Math.max(1, past.weeks);
    const noise = dispersion * past.noise;
    return {
      ...{ weeks, overall: this.overall, ...this.kriging.workingOf(weeks, noise) },
      dipVariance:
        past.weeks <= DIP_WEEKS ? null : this.kriging.contrast(past.weeks, noise, DIP_WEEKS, past.weeks),
    };
  }

  /**
   * Forecast variance over a horizon at the level of the weeks before, counting variance included.
   */
  foreseenVariance(past: Past, horizon: Horizon): { readonly variance: number; readonly noise: number } {
    const { dispersion } = this.covariance;
    const { variance } = this.kriging.predict(Math.max(1, past.weeks), dispersion * past.noise, horizon);
    const noise = dispersion * past.recentNoise;
    return { variance, noise: past.weeks > 0 ? (noise * 7) / horizon.days : noise };
  }

  /** Dip and pre-trend of the row before the change; null if its past is too short. */
  standing(past: Past): Standing | null {
    if (past.weeks <= DIP_WEEKS) return null;
    const { dispersion } = this.covariance;
    const contrast = (recent: number, of: number) =>
      this.kriging.contrast(past.weeks, dispersion * past.noise, recent, of);
    const [month, all] = [mean(past, DIP_WEEKS), mean(past, past.weeks)];
    return {
      dip: (month - all) / Math.sqrt(contrast(DIP_WEEKS, past.weeks)),
      preTrend: (past.deviations[0]! - month) / Math.sqrt(contrast(1, DIP_WEEKS)),
    };
  }

  /** Squared dip in standard deviations, less one: rows far from their usual level vary more. */
  private strain(past: Past): number {
    const standing = this.standing(past);
    return standing ? Math.min(MOST_STRAIN, standing.dip ** 2) - 1 : 0;
  }
}

/** A dip counts as no further out than three standard deviations. */
export const MOST_STRAIN = 9;

function mean({ deviations }: Past, weeks: number): number {
  let sum = 0;
  for (let i = 0; i < weeks; i++) sum += deviations[i]!;
  return sum / weeks;
}

function overallRate(history: History, component: Component, control: Uint8Array): number {
  const { of, against } = columnsOf(history, component);
  const all = history.days * history.rows;
  let [sum, base] = [0, 0];
  for (let row = 0; row < control.length; row++) {
    if (control[row] === 0) continue;
    sum += of[all + row]!;
    base += against![all + row]!;
  }
  return base > 0 && sum > 0 ? sum / base : 1;
}

/**
 * The log ratio of clicks seen to clicks expected, half a click added to each.
 * @example logRate(12, 10) // 0.174: the log of 12.5 / 10.5
 */
export function logRate(seen: number, expected: number): number {
  return Math.log((seen + 0.5) / (expected + 0.5));
}
