/* Placebo windows: unchanged rows at past days, each compared with a control of the others. */

import { asDay, type Day } from '../calendar/day';
import { isRate, modelOf, type Component } from '../measures/registry';
import {
  controlOf,
  controlWeight,
  eachGroup,
  heldAgainst,
  NO_PART,
  type Control,
  type Held,
} from './control';
import { logRate, type Innovations } from './forecast';
import type { FittedPanel } from './fittedPanel';
import type { Horizon } from './kriging';
import { untouched } from './untouched';

/** Days between the starts of two placebo windows. */
export const STEP_DAYS = 7;
/** Days of figures before the first of them. */
const FIRST_DAYS = 28;

/** The past days at which placebo windows of a horizon begin, the newest first. */
export function placeboDays(
  { rows: { history }, lastDay }: FittedPanel,
  { settlingDays, days }: Horizon,
): Day[] {
  const begins: Day[] = [];
  const newest = Math.min(lastDay, history.lastDay) + 1 - settlingDays - days;
  for (let day = newest; day >= history.firstDay + FIRST_DAYS; day -= STEP_DAYS) begins.push(asDay(day));
  return begins;
}

/** How many placebo windows carry the information of one: they overlap, as do their past months. */
export function overlappingWindows({ days }: Horizon): number {
  return Math.max(1, (days + 28) / STEP_DAYS);
}

/**
 * Net moves of a component in placebo windows, by `column * rows + row`; NaN if the row was changed
 * or is absent. `variance` is the forecast variance beyond counting, `noise` the counting variance,
 * `strain` as in `Innovations`.
 */
export type PlaceboWindows = {
  readonly columns: number;
  readonly rows: number;
  readonly net: Float32Array;
  readonly variance: Float32Array;
  readonly noise: Float32Array;
  readonly strain: Float32Array;
  /** What the control rows did, window by window. */
  readonly pools: readonly Control[];
  /** Variance of a group's innovation about the site's. */
  readonly between: number;
  /**
   * Share of the variance of innovations that the control removes; below 0 it adds. Null without
   * windows.
   */
  readonly tracking: number | null;
};

/** Windows that what is assumed of groups weighs as much as. */
const PRIOR_WINDOWS = 12;

/** The placebo windows of a component that begin on `begins`, a day a step. */
export function* placeboWindows(
  ground: FittedPanel,
  component: Component,
  horizon: Horizon,
  begins: readonly Day[],
): Generator<void, PlaceboWindows> {
  const { history, control, learnedFrom } = ground.rows;
  const { rows } = history;
  const list = Array.from({ length: rows }, (_, row) => row);
  const columns = [];
  for (const day of begins) {
    const fit = untouched(ground.rows, day, horizon);
    const { groups } = ground.groupsAt(day);
    const innovations = ground.innovations(component, day, horizon, list);
    const share = fit.map((own, row) => own * control[row]!);
    columns.push({ fit, share, groups, innovations, pooled: controlOf(innovations, share, groups) });
    yield;
  }
  const pools = columns.map(({ pooled }) => pooled);
  const between = spreadOfGroups(modelOf(component).groupVariance, pools, overlappingWindows(horizon));
  const column = () => new Float32Array(rows * begins.length);
  const windows = { net: column().fill(NaN), variance: column(), noise: column(), strain: column() };
  const held: Held = { move: 0, variance: 0, own: 0 };
  let [plain, against] = [0, 0];
  columns.forEach(({ fit, share, groups, innovations, pooled }, number) => {
    for (let row = 0; row < rows; row++) {
      const move = innovations.move[row]!;
      if (fit[row] === 0 || learnedFrom[row] === 0 || move !== move) continue;
      const weight = share[row] === 0 ? 0 : controlWeight(innovations, row);
      heldAgainst(pooled, groups.of[row]!, between, weight > 0 ? { weight, move } : NO_PART, held);
      const at = number * rows + row;
      windows.net[at] = netMove(component, innovations, row, held.move);
      windows.variance[at] = innovations.variance[row]! + held.variance;
      windows.noise[at] = innovations.noise[row]!;
      windows.strain[at] = innovations.strain[row]!;
      plain += weight > 0 ? weight * move ** 2 : 0;
      against += weight > 0 ? weight * (move - held.move) ** 2 : 0;
    }
  });
  const tracking = plain > 0 ? 1 - against / plain : null;
  return { columns: begins.length, rows, ...windows, pools, between, tracking };
}

/** An innovation less the control's: a log ratio, of rates by the clicks themselves. */
export function netMove(component: Component, innovations: Innovations, at: number, control: number): number {
  return isRate(component)
    ? logRate(innovations.seen[at]!, innovations.expected[at]! * (1 + control))
    : innovations.move[at]! - control;
}

/** How far groups differ, by moments over all days, pulled toward what is assumed. */
function spreadOfGroups(assumed: number, controls: readonly Control[], overlapping: number): number {
  let [sum, weights, count] = [0, 0, 0];
  for (const control of controls)
    eachGroup(control, (deviation, variance) => {
      const weight = 1 / (variance + assumed) ** 2;
      sum += weight * (deviation * deviation - variance);
      weights += weight;
      count += 1;
    });
  const apart = count / overlapping;
  const own = apart / (apart + PRIOR_WINDOWS);
  return Math.max(0, own * (weights > 0 ? sum / weights : 0) + (1 - own) * assumed);
}
