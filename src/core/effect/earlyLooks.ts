/* Group-sequential boundary for daily looks, estimated from placebo windows. */

import type { Day } from '../calendar/day';
import type { Component } from '../measures/registry';
import { controlOf, controlWeight, heldAgainst, NO_PART, type Held } from './control';
import type { FittedPanel } from './fittedPanel';
import { netMove } from './placeboWindows';
import { maxStatistic, usualMost } from './maxStatistic';
import type { VerdictMeasure } from '../measures/registry';
import { strained, varianceOfBoth, type NullDistribution } from './nullDistribution';
import { untouched } from './untouched';

/** The first day after settling on which anything is called. */
export const FIRST_LOOK = 3;

/** Critical value of the max statistic by days after settling; Infinity before the first look. */
export type EarlyBoundary = readonly number[];

/** Assumed for a day and for the height of the boundary where nothing is known. */
const [ASSUMED_DAY, ASSUMED] = [1.2, 1.15];
const LOOKED_AT = ['showings', 'appeal', 'rank'] as const satisfies readonly Component[];

/**
 * The boundary of a horizon. The max statistic of day t of n is divided by its 90th percentile on
 * that day and called beyond k √(n/t), where k is the 90th percentile of the maximum over days,
 * weighted by √(t/n): early looks need a large effect, late ones little more than the last.
 *
 * Source: O’Brien and Fleming, Biometrics 35 (1979) 549-556, for the shape; the height comes from
 * placebo windows.
 */
export function earlyBoundary(ground: FittedPanel, swing: NullDistribution): EarlyBoundary {
  const { days } = swing.horizon;
  const looks = Array.from({ length: Math.max(0, days - FIRST_LOOK + 1) }, (_, i) => FIRST_LOOK + i);
  // Every other placebo day tells as much: neighbouring ones hardly differ.
  const begins = swing.days.filter((_, i) => i % 2 === 0);
  const strengths = strengthsAt(ground, swing, looks, begins);
  const overlapping = Math.max(1, swing.overlapping / 2);
  const usual = strengths.map((all) => {
    const known = Array.from(all.filter((strength) => strength === strength));
    return Math.max(0.5, usualMost(known, overlapping, ASSUMED_DAY));
  });
  const largest: number[] = [];
  for (let at = 0; at < begins.length * swing.rows; at++) {
    let most = NaN;
    looks.forEach((look, i) => {
      const weighed = (strengths[i]![at]! / usual[i]!) * Math.sqrt(look / days);
      if (weighed === weighed && !(weighed <= most)) most = weighed;
    });
    if (most === most) largest.push(most);
  }
  const height = usualMost(largest, overlapping, ASSUMED);
  return Array.from({ length: days + 1 }, (_, look) =>
    look < FIRST_LOOK ? Infinity : height * usual[look - FIRST_LOOK]! * Math.sqrt(days / look),
  );
}

/** The max statistic of every placebo window at each look; NaN if absent, 0 if clicks disagree. */
function strengthsAt(
  ground: FittedPanel,
  swing: NullDistribution,
  looks: readonly number[],
  begins: readonly Day[],
): Float32Array[] {
  const { rows, components } = swing;
  const horizons = looks.map((days) => ({ ...swing.horizon, days }));
  const strengths = looks.map(() => new Float32Array(begins.length * rows).fill(NaN));
  const list = Array.from({ length: rows }, (_, row) => row);
  const judged = everySoMany(list.filter((row) => ground.rows.learnedFrom[row] !== 0));
  const held: Held = { move: 0, variance: 0, own: 0 };
  begins.forEach((day, column) => {
    const fit = untouched(ground.rows, day, swing.horizon);
    const { groups } = ground.groupsAt(day);
    const share = fit.map((own, row) => own * ground.rows.control[row]!);
    const parts = LOOKED_AT.map((component) => ({
      component,
      ...components[component],
      over: ground.innovationsOver(component, day, horizons, list).map((innovations) => ({
        innovations,
        pooled: controlOf(innovations, share, groups),
      })),
    }));
    looks.forEach((_look, i) => {
      for (const row of judged) {
        if (fit[row] === 0) continue;
        const [showings, appeal, rank] = parts.map(({ component, over, between, scale, perStrain }): Look => {
          const { innovations, pooled } = over[i]!;
          const move = innovations.move[row]!;
          const weight = share[row] === 0 ? 0 : controlWeight(innovations, row);
          heldAgainst(pooled, groups.of[row]!, between, weight > 0 ? { weight, move } : NO_PART, held);
          const own = strained(
            innovations.variance[row]! + held.variance,
            innovations.strain[row]!,
            perStrain,
          );
          return {
            net: move === move ? netMove(component, innovations, row, held.move) : NaN,
            variance: own * scale[row]! + innovations.noise[row]!,
          };
        }) as [Look, Look, Look];
        const top = maxStatistic((measure) => sizeOf(measure, { showings, appeal, rank }, swing));
        if (top) strengths[i]![column * rows + row] = top.agrees ? top.strength : 0;
      }
    });
  });
  return strengths;
}

/** Rows that the boundary is learned from, evenly among all where there are more. */
const MOST_ROWS = 150;

function everySoMany(list: readonly number[]): number[] {
  const every = Math.ceil(list.length / MOST_ROWS);
  return list.filter((_, i) => i % every === 0);
}

type Look = { readonly net: number; readonly variance: number };

function sizeOf(
  measure: VerdictMeasure,
  looks: Readonly<Record<(typeof LOOKED_AT)[number], Look>>,
  { measures }: NullDistribution,
): number {
  const { criticalValue, correlation } = measures[measure];
  if (measure !== 'clicks') return looks[measure].net / Math.sqrt(looks[measure].variance) / criticalValue;
  const { showings, appeal } = looks;
  const variance = varianceOfBoth(showings.variance, appeal.variance, correlation);
  return (showings.net + appeal.net) / Math.sqrt(variance) / criticalValue;
}
