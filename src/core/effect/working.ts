/* The calculation of an estimate: all inputs of its figures, so that it can be reproduced. */

import type { Day } from '../calendar/day';
import type { Measure } from '../measures/registry';
import { componentsOf, isRate, type Component } from '../measures/registry';
import type { Estimate } from './effect';
import type { FittedPanel, PastWorking } from './fittedPanel';
import type { Horizon } from './kriging';
import type { JointMoves } from './jointWindows';
import { movedTogether } from './pooledEffect';
import type { HeldRows } from './rowEstimates';

/** One row of a component. */
export type WorkedRow = {
  readonly id: number;
  /** Null where the row's past says too little; it then has no part. */
  readonly past: PastWorking | null;
  /**
   * Half an expected click at the usual value of an impression of this row; stands in logs for
   * zero.
   */
  readonly half: number;
  /** What its variance beyond counting is of the site's. */
  readonly scale: number;
};

/** A component with what was learned of it. */
export type WorkedComponent = {
  readonly component: Component;
  readonly dispersion: number;
  readonly parts: readonly number[];
  readonly nugget: number;
  /** How far groups differ, as a variance; 0 where the control was chosen. */
  readonly between: number;
  readonly perStrain: number;
  readonly subjects: readonly WorkedRow[];
  readonly control: readonly WorkedRow[];
};

/** The working of one measure of a comparison. */
export type Working = {
  readonly measure: Measure;
  readonly day: Day;
  readonly horizon: Horizon;
  /**
   * The compared rows, and the control rows with their shares; `group` is the group of each row.
   */
  readonly subjects: readonly { readonly id: number; readonly group: number }[];
  readonly control: readonly { readonly id: number; readonly group: number; readonly share: number }[];
  readonly components: readonly WorkedComponent[];
  /** Of the errors of the two components; 0 where there is one. */
  readonly correlation: number;
  /** Half-width of the interval in standard errors. */
  readonly critical: number;
  /** Mean square of the rows’ joint moves in placebo windows, and its weight. */
  readonly together: { readonly seen: number; readonly trust: number };
  /** What the engine itself makes of it. */
  readonly estimate: Estimate;
};

/** The working of an estimate of some rows, by what the engine holds. */
export function workingOf(
  measure: Measure,
  estimate: Estimate,
  { ground, swing, on, day, horizon, rows }: HeldRows,
  moves: JointMoves,
): Working {
  const { history } = ground.rows;
  const { groups } = ground.groupsAt(day);
  const named = (row: number) => ({ id: history.idOf(row), group: groups.of[row]! });
  const members = on.members();
  const components = componentsOf(measure).map((component): WorkedComponent => {
    const { dispersion, parts, nugget } = ground.forecaster(component).covariance;
    const { between, perStrain, scale } = swing.components[component];
    const worked = (row: number): WorkedRow => ({
      id: history.idOf(row),
      past: ground.workingOf(component, row, day, horizon.days),
      half: isRate(component) ? 0 : halfOf(ground, component, row),
      scale: scale[row]!,
    });
    return {
      ...{ component, dispersion, parts, nugget, perStrain },
      between: on.byGroups ? between : 0,
      subjects: rows.map(worked),
      control: members.map(({ row }) => worked(row)),
    };
  });
  const { correlation, criticalValue } = swing.measures[measure];
  return {
    ...{ measure, day, horizon, components, correlation, critical: criticalValue, estimate },
    subjects: rows.map(named),
    control: members.map(({ row, share }) => ({ ...named(row), share })),
    together: movedTogether(measure, rows, moves),
  };
}

/** See `levelBetween`. */
function halfOf({ rows: { history } }: FittedPanel, component: Component, row: number): number {
  const { expected, impressions } = history.sums;
  const all = history.days * history.rows + row;
  const of = component === 'showings' ? expected : impressions;
  return (0.5 * (of[all]! + 1e-9)) / (impressions[all]! + 1e-9);
}
