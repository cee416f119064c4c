/* Precision and standing of rows before a change: forecast variance, dip and pre-trend. */

import type { Day } from '../calendar/day';
import type { Measure } from '../measures/registry';
import { componentsOf } from '../measures/registry';
import type { Standing } from './forecast';
import type { FittedPanel } from './fittedPanel';
import type { Horizon } from './kriging';
import { varianceOfBoth, type NullDistribution } from './nullDistribution';

/** A row and the days that are to be foreseen of it: a horizon from a day on. */
export type Foreseen = { readonly row: number; readonly from: Day; readonly horizon: Horizon };

/**
 * Variance that the net effect of a row on a measure will have, without the variance of its
 * control. NaN if the row has too short a past.
 */
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

/**
 * Dip and pre-trend of the clicks of rows, in standard deviations: the level before a day against
 * the long-term level, and the last week against the last month. Null if their past is too short.
 */
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
