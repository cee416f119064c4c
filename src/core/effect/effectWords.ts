import { isInPlaces, type Measure, MEASURE_DESCRIPTIONS } from '../measures/registry';
import type { Net } from './effect';
import type { VerdictMeasure } from '../measures/registry';
import type { Mark } from './verdict';
import { ABSENT, boundPercent, boundPlaces, netPercent, placesGained } from '../words/format';

/** What a verdict is called. */
export const VERDICT_NAMES: Record<Mark | 'waiting', string> = {
  lifted: 'lifted',
  dropped: 'dropped',
  held: 'held',
  unclear: 'unclear',
  waiting: 'waiting',
};

/** What moved, in words. @example movedText('appeal', 'lifted') // "chosen more often" */
export function movedText(measure: VerdictMeasure, way: 'lifted' | 'dropped'): string {
  return MEASURE_DESCRIPTIONS[measure].moved[way === 'lifted' ? 0 : 1];
}

/** A net effect with its sign and unit. @example "+24%", "2.1 places up" */
export function netText(net: Net | null, measure: Measure): string {
  const effect = net?.[measure];
  if (!effect) return ABSENT;
  return 'placesGained' in effect ? placesGained(effect.placesGained) : netPercent(effect.ratio);
}

/** The 90% range of a net effect. @example "+9% to +41%", "1.0 place up to 3.2 places up" */
export function rangeText(net: Net | null, measure: Measure): string {
  const effect = net?.[measure];
  if (!effect) return ABSENT;
  return isInPlaces(measure)
    ? `${short(boundPlaces(effect.low))} to ${short(boundPlaces(effect.high))}`
    : `${boundPercent(effect.low)} to ${boundPercent(effect.high)}`;
}

/** Places without the word. @example "0.3 up" */
export function shortPlaces(places: number): string {
  return short(placesGained(places));
}

function short(places: string): string {
  return places.replace(/ places? /, ' ');
}

/** Net effect on the log scale, position turned so that up is better; null if absent. */
export function netHeight(net: Net | null, measure: Measure, positionAfter: number | null): number | null {
  const effect = net?.[measure];
  if (!effect) return null;
  if (!('placesGained' in effect)) return Math.log(effect.ratio);
  return positionAfter ? Math.log(1 + effect.placesGained / positionAfter) : null;
}
