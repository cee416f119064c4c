/* What is known of rows before a change: how sure a reading of them will be, and whether they stand out already. */

import type { Day } from '../calendar/day';
import type { Measure } from '../measures/registry';
import { componentsOf } from '../measures/registry';
import type { Standing } from './forecast';
import type { FittedPanel } from './fittedPanel';
import type { Horizon } from './kriging';
import { varianceOfBoth, type NullDistribution } from './nullDistribution';

/** A row and the days that are to be foreseen of it: a horizon from a day on. */
export type Foreseen = { readonly row: number; readonly from: Day; readonly horizon: Horizon };

/** The variance that a row's net effect on a measure will have at its level of the weeks before, without that of the control; NaN where its past says too little. */
export function foreseenVariance(
  ground: FittedPanel,
  { components, measures }: NullDistribution,
  measure: Measure,
  { row, from, horizon }: Foreseen,
): number {
  const [first, second] = componentsOf(measure).map((component) => {
    const past = ground.pastOf(component, row, from);
    if (!past) return NaN;
    const { variance, noise } = ground.forecaster(component).foreseenVariance(past, horizon);
    const { scale, between } = components[component];
    return (variance + between / 2) * scale[row]! + noise;
  });
  return second === undefined ? first! : varianceOfBoth(first!, second, measures[measure].correlation);
}

/** How far the clicks of rows stood from their level before a day, and the last week from the month, in standard deviations; null where their past is too short. */
export function standingBefore(
  ground: FittedPanel,
  day: Day,
  rows: readonly number[],
): Readonly<Record<keyof Standing, number | null>> {
  const all = rows.flatMap((row) => {
    const parts = componentsOf('clicks').map((component) => {
      const past = ground.pastOf(component, row, day);
      return past && ground.forecaster(component).standing(past);
    });
    return parts.every((part) => part !== null) ? [parts] : [];
  });
  const sum = (of: keyof Standing) => {
    if (all.length === 0) return null;
    const values = all.flat().map((part) => part[of]);
    return values.reduce((total, value) => total + value, 0) / Math.sqrt(values.length);
  };
  return { dip: sum('dip'), preTrend: sum('preTrend') };
}
