/* Placebo windows of several rows at once, against a control without any of them. */

import type { Day } from '../calendar/day';
import type { Measure } from '../measures/registry';
import { componentsOf, type Component } from '../measures/registry';
import { controlWeight, heldAgainst, NO_PART, withoutParts, type Held } from './control';
import type { FittedPanel } from './fittedPanel';
import { netMove } from './placeboWindows';
import type { NullDistribution } from './nullDistribution';

/**
 * Net moves of rows in placebo windows that end before a day, by `window * rows + index`; NaN if a
 * row was changed or is absent.
 */
export type JointWindows = {
  readonly windows: number;
  /** How many windows that stand alone would tell as much. */
  readonly apart: number;
  readonly nets: Float64Array;
};

/** Step between the windows used: those in between overlap and add almost no information. */
const WINDOWS_APART = 4;

/** Rows looked at together, in placebo windows that end before a day (null: all windows). */
export type JointRows = {
  readonly ground: FittedPanel;
  readonly swing: NullDistribution;
  readonly rows: readonly number[];
  readonly before: Day | null;
};

/**
 * Net moves of a component of rows in placebo windows, against a control without any of these rows.
 * In the windows of the null distribution each row is in the control of the others, which would
 * remove their shared movement.
 */
export function jointWindows(
  { ground, swing, rows: list, before }: JointRows,
  component: Component,
): JointWindows {
  const { control } = ground.rows;
  const { horizon, rows } = swing;
  const { pools, between } = swing.components[component];
  const { nets: single } = swing.measures[component];
  const columns = [...swing.days.keys()]
    .filter(
      (column) => before === null || swing.days[column]! + horizon.settlingDays + horizon.days <= before,
    )
    .filter((_, i) => i % WINDOWS_APART === 0);
  const nets = new Float64Array(columns.length * list.length).fill(NaN);
  const held: Held = { move: 0, variance: 0, own: 0 };
  columns.forEach((column, window) => {
    const day = swing.days[column]!;
    const { groups } = ground.groupsAt(day);
    const innovations = ground.innovations(component, day, horizon, list);
    const known = [...list.keys()].filter((at) => !Number.isNaN(single[column * rows + list[at]!]!));
    const parts = known
      .map((at) => ({
        ...{ weight: control[list[at]!]! * controlWeight(innovations, at), move: innovations.move[at]! },
        group: groups.of[list[at]!]!,
      }))
      .filter(({ weight }) => weight > 0);
    const others = withoutParts(pools[column]!, parts);
    for (const at of known) {
      heldAgainst(others, groups.of[list[at]!]!, between, NO_PART, held);
      nets[window * list.length + at] = netMove(component, innovations, at, held.move);
    }
  });
  const apart = columns.length * Math.min(1, WINDOWS_APART / swing.overlapping);
  return { windows: columns.length, apart, nets };
}

/** The joint windows of some rows, measure by measure, each component looked at once. */
export class JointMoves {
  private readonly known = new Map<Component, JointWindows>();

  constructor(readonly joint: JointRows) {}

  of(measure: Measure): JointWindows {
    const [first, second] = componentsOf(measure).map((component) => this.component(component));
    return second ? { ...first!, nets: first!.nets.map((net, at) => net + second.nets[at]!) } : first!;
  }

  private component(component: Component): JointWindows {
    const windows = this.known.get(component) ?? jointWindows(this.joint, component);
    this.known.set(component, windows);
    return windows;
  }
}
