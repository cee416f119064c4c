/* Net effects of rows, each by itself, against the control of a day. */

import type { Day } from '../calendar/day';
import type { Measure } from '../measures/registry';
import { componentsOf, type Component } from '../measures/registry';
import { heldAgainst, NO_PART, type Held } from './control';
import type { ControlDay } from './controlDay';
import { byMeasure } from '../measures/registry';
import type { FittedPanel } from './fittedPanel';
import type { Horizon } from './kriging';
import { netMove } from './placeboWindows';
import type { RowEstimate } from './pooledEffect';
import { strained, varianceOfBoth, type NullDistribution } from './nullDistribution';

/**
 * Rows after a day with everything they are compared with. `swing` may be that of a longer horizon
 * that begins with these days.
 */
export type HeldRows = {
  readonly ground: FittedPanel;
  readonly swing: NullDistribution;
  readonly on: ControlDay;
  readonly day: Day;
  readonly horizon: Horizon;
  readonly rows: readonly number[];
};

/** Net effects of each row with variances; null if a measure is absent or wasn’t asked for. */
export type RowEstimates = readonly Readonly<Record<Measure, RowEstimate | null>>[];

/** The net effects of rows on some measures, in their order. */
export function rowEstimates(held: HeldRows, measures: readonly Measure[]): RowEstimates {
  const nets = new Map<Component, (RowEstimate | null)[]>();
  const netsOf = (component: Component) => {
    const known = nets.get(component) ?? componentNets(held, component);
    nets.set(component, known);
    return known;
  };
  return held.rows.map((row, i) =>
    byMeasure((measure): RowEstimate | null => {
      if (!measures.includes(measure)) return null;
      const [first, second] = componentsOf(measure).map((component) => netsOf(component)[i]);
      if (second === undefined) return first ?? null;
      if (!first || !second) return null;
      const { correlation } = held.swing.measures[measure];
      return {
        row,
        net: first.net + second.net,
        variance: varianceOfBoth(first.variance, second.variance, correlation),
        shared: first.shared + second.shared,
      };
    }),
  );
}

function componentNets(
  { ground, swing, on, day, horizon, rows }: HeldRows,
  component: Component,
): (RowEstimate | null)[] {
  const { groups } = ground.groupsAt(day);
  const control = on.of(component);
  const innovations = ground.innovations(component, day, horizon, rows);
  const { between, scale, perStrain } = swing.components[component];
  const differ = on.byGroups ? between : 0;
  const held: Held = { move: 0, variance: 0, own: 0 };
  return rows.map((row, at) => {
    const move = innovations.move[at]!;
    if (move !== move) return null;
    heldAgainst(control, groups.of[row]!, differ, NO_PART, held);
    const before = strained(innovations.variance[at]! + held.variance, innovations.strain[at]!, perStrain);
    return {
      row,
      net: netMove(component, innovations, at, held.move),
      variance: before * scale[row]! + innovations.noise[at]!,
      shared: held.variance,
    };
  });
}

/**
 * Weight of the rows’ own groups in the control of expected clicks, averaged over rows with
 * figures.
 */
export function ownGroupWeight({ ground, swing, on, day, rows }: HeldRows, estimates: RowEstimates): number {
  const { groups } = ground.groupsAt(day);
  const differ = on.byGroups ? swing.components.showings.between : 0;
  const held: Held = { move: 0, variance: 0, own: 0 };
  return rows.reduce((sum, row, i) => {
    if (estimates[i]!.showings === null) return sum;
    return sum + heldAgainst(on.of('showings'), groups.of[row]!, differ, NO_PART, held).own / rows.length;
  }, 0);
}
