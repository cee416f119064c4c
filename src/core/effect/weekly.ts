/*
 * The weekly panel: the level of each row by week, less the week effects of a two-way additive
 * model.
 */

import type { Day } from '../calendar/day';
import type { History } from '../history/history';
import { isRate, modelOf, type Component } from '../measures/registry';
import type { Rows } from './rows';

/** Weeks of a row's past that are looked at. */
export const PAST_WEEKS = 26;
/** Counting variance of log position per impression; the dispersion absorbs what this misses. */
export const POSITION_NOISE = 0.4;
/** A week counts where the site has figures on so many of its days. */
const FEWEST_DAYS = 4;
/** Variance of a week beyond counting, roughly; it only sets weights. */
export const WEEK_SPREAD = 0.03;
const ROUNDS = 4;

/**
 * A component of all rows by week, by `row * weeks + week`. Of levels, `value` is the log level of
 * the week (per day; of positions, of the week) less the week effect, and `noise` its counting
 * variance. Of rates, `value` is clicks, and `base` the denominator times the week effect. NaN if
 * the row or the site has no figures that week, or the row was changed within it.
 */
export type WeeklyPanel = {
  readonly rows: number;
  readonly firstDay: Day;
  readonly weeks: number;
  readonly isRate: boolean;
  readonly value: Float32Array;
  readonly base: Float32Array;
  readonly noise: Float32Array;
  /** 1 at each week with which a row's level begins anew, since it was changed. */
  readonly cut: Uint8Array;
};

/**
 * Running sums of a component: `of` over `against` (null: per day); `counts` gives its precision.
 */
export function columnsOf({ sums }: History, component: Component) {
  const { of, against, counts } = modelOf(component);
  return { of: sums[of], against: against && sums[against], counts: sums[counts] };
}

export type Columns = ReturnType<typeof columnsOf>;

/** A level as it is modelled, and its variance of counting; NaN where it is absent. */
export type Level = { value: number; noise: number };

/**
 * Log level of a component (not a rate) of a row between two offsets of its history
 * (`History.offset`), `days` of which have figures. For zero, half an impression at its usual value
 * stands in, so that the log exists.
 */
export function levelBetween(
  history: History,
  component: Component,
  { of, against, counts }: Columns,
  row: number,
  { from, to, days }: { readonly from: number; readonly to: number; readonly days: number },
  into: Level,
): void {
  const [first, last] = [from * history.rows + row, to * history.rows + row];
  const sum = of[last]! - of[first]!;
  if (against) {
    const weight = against[last]! - against[first]!;
    const mean = weight > 0 ? sum / weight : NaN;
    // Rank is a mean of logarithms already.
    into.value = component === 'rank' ? mean : Math.log(mean);
    into.noise = POSITION_NOISE / (weight + 0.5);
    return;
  }
  const all = history.days * history.rows + row;
  const half = (0.5 * (of[all]! + 1e-9)) / (counts[all]! + 1e-9);
  into.value = Math.log((sum + half) / days);
  into.noise = 1 / (counts[last]! - counts[first]! + 0.5);
}

/** A week of a row before week effects are taken off: its level, or the denominator of a rate. */
export function weekOf(history: History, component: Component, row: number, firstDay: Day): number {
  const columns = columnsOf(history, component);
  const [from, to] = [history.offset(firstDay), history.offset(firstDay + 7)];
  if (isRate(component))
    return columns.against![to * history.rows + row]! - columns.against![from * history.rows + row]!;
  const days = history.covered({ firstDay, lastDay: (firstDay + 6) as Day });
  const level: Level = { value: 0, noise: 0 };
  levelBetween(history, component, columns, row, { from, to, days }, level);
  return level.value;
}

/**
 * Weekly panel of a component, with weeks aligned to `day`, over a whole history or up to before
 * `until`. Week effects are fitted to the control rows by alternating with row levels (one for each
 * stretch between changes), weighted by inverse variance.
 */
export function weeklyPanel(
  component: Component,
  rows: Rows,
  day: Day,
  until: number = Infinity,
): WeeklyPanel {
  const { history } = rows;
  const offset = (((day - history.firstDay) % 7) + 7) % 7;
  const days = Math.min(history.days, until - history.firstDay);
  const weeks = Math.max(0, Math.floor((days - offset) / 7));
  const size = history.rows * weeks;
  const panel: WeeklyPanel = {
    rows: history.rows,
    firstDay: (history.firstDay + offset) as Day,
    weeks,
    isRate: isRate(component),
    value: new Float32Array(size).fill(NaN),
    base: new Float32Array(size),
    noise: new Float32Array(size),
    cut: new Uint8Array(size),
  };
  const covered = Array.from({ length: weeks }, (_, week) => {
    const firstDay = (panel.firstDay + 7 * week) as Day;
    return history.covered({ firstDay, lastDay: (firstDay + 6) as Day });
  });
  for (let row = 0; row < history.rows; row++) fillRow(panel, component, rows, row, offset, covered);
  takeOffCommonMovement(panel, rows.control);
  return panel;
}

function fillRow(
  panel: WeeklyPanel,
  component: Component,
  { history, touched }: Rows,
  row: number,
  offset: number,
  covered: readonly number[],
): void {
  const { weeks, firstDay, value, base, noise, cut } = panel;
  const columns = columnsOf(history, component);
  const { of, against } = columns;
  const { impressions } = history.sums;
  const level: Level = { value: 0, noise: 0 };
  let seen = false;
  for (let week = 0; week < weeks; week++) {
    const at = row * weeks + week;
    const begins = firstDay + 7 * week;
    const next = touched.firstFrom(row, begins);
    const into = next === null || next > begins + 6 ? null : next - begins;
    if (into === 0) cut[at] = 1;
    else if (into !== null && week + 1 < weeks) cut[at + 1] = 1;
    const [from, to] = [offset + 7 * week, offset + 7 * week + 7];
    const [first, last] = [from * history.rows + row, to * history.rows + row];
    seen ||= impressions[last]! > impressions[first]!;
    if (!seen || covered[week]! < FEWEST_DAYS || (into !== null && into > 0)) continue;
    if (panel.isRate) {
      base[at] = against![last]! - against![first]!;
      value[at] = base[at] > 0 ? of[last]! - of[first]! : NaN;
    } else {
      levelBetween(history, component, columns, row, { from, to, days: covered[week]! }, level);
      value[at] = level.value;
      noise[at] = level.noise;
    }
  }
}

function takeOffCommonMovement(panel: WeeklyPanel, control: Uint8Array): void {
  const { rows, weeks, isRate: rate, value, base, noise } = panel;
  const pool = new Float64Array(weeks).fill(rate ? 1 : 0);
  const [sum, weights] = [new Float64Array(weeks), new Float64Array(weeks)];
  for (let round = 0; round < ROUNDS; round++) {
    sum.fill(0);
    weights.fill(0);
    for (let row = 0; row < rows; row++) {
      if (control[row] === 0) continue;
      eachStretch(panel, row, (from, to) => {
        const level = stretchLevel(panel, row, from, to, pool);
        if (level === null) return;
        for (let week = from; week < to; week++) {
          const at = row * weeks + week;
          if (value[at] !== value[at] || (rate && base[at] === 0)) continue;
          const expected = level * base[at]!;
          const weight = 1 / ((rate ? 1 / expected : noise[at]!) + WEEK_SPREAD);
          sum[week]! += weight * (rate ? value[at]! / expected : value[at]! - level);
          weights[week]! += weight;
        }
      });
    }
    for (let week = 0; week < weeks; week++)
      if (weights[week]! > 0 && (!rate || sum[week]! > 0)) pool[week] = sum[week]! / weights[week]!;
  }
  for (let row = 0; row < rows; row++) {
    for (let week = 0; week < weeks; week++) {
      if (rate) base[row * weeks + week]! *= pool[week]!;
      else value[row * weeks + week]! -= pool[week]!;
    }
  }
}

/** Level of a row between two of its changes: a mean of logs, or clicks over the denominator. */
function stretchLevel(
  { weeks, isRate: rate, value, base, noise }: WeeklyPanel,
  row: number,
  from: number,
  to: number,
  pool: Float64Array | null,
): number | null {
  let [sum, total] = [0, 0];
  for (let week = from; week < to; week++) {
    const at = row * weeks + week;
    if (value[at] !== value[at]) continue;
    const weight = rate ? base[at]! * (pool?.[week] ?? 1) : 1 / (noise[at]! + WEEK_SPREAD);
    sum += rate ? value[at]! : weight * (value[at]! - (pool?.[week] ?? 0));
    total += weight;
  }
  return total <= 0 || (rate && sum === 0) ? null : sum / total;
}

/** Calls back for each stretch of weeks of a row between its changes. */
export function eachStretch(
  { weeks, cut }: Pick<WeeklyPanel, 'weeks' | 'cut'>,
  row: number,
  visit: (from: number, to: number) => void,
): void {
  let from = 0;
  for (let week = 1; week < weeks; week++) {
    if (cut[row * weeks + week] === 0) continue;
    visit(from, week);
    from = week;
  }
  if (weeks > from) visit(from, weeks);
}

/**
 * A week of a row as its deviation from the level between two changes, with its counting variance.
 */
export type Deviation = { row: number; week: number; value: number; noise: number };

/**
 * Calls back with the deviation of every week of the rows of a mask from the level of its stretch:
 * a difference of logs for levels, a ratio less one for rates. The same object is passed each time.
 */
export function eachDeviation(
  panel: WeeklyPanel,
  among: Uint8Array,
  visit: (deviation: Deviation) => void,
): void {
  const { rows, weeks, isRate: rate, value, base, noise } = panel;
  const deviation: Deviation = { row: 0, week: 0, value: 0, noise: 0 };
  for (let row = 0; row < rows; row++) {
    if (among[row] === 0) continue;
    deviation.row = row;
    eachStretch(panel, row, (from, to) => {
      const level = stretchLevel(panel, row, from, to, null);
      if (level === null) return;
      for (let week = from; week < to; week++) {
        const at = row * weeks + week;
        if (value[at] !== value[at] || (rate && base[at] === 0)) continue;
        deviation.week = week;
        deviation.value = rate ? value[at]! / (level * base[at]!) - 1 : value[at]! - level;
        deviation.noise = rate ? 1 / (level * base[at]!) : noise[at]!;
        visit(deviation);
      }
    });
  }
}
