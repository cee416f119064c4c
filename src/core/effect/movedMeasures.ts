/* The verdict of a comparison: what plainly moved, by the strongest of its measures. */

import type { Measure } from '../measures/registry';
import type { Estimates } from './effect';
import { maxStatistic, type MaxStatistic } from './maxStatistic';
import { VERDICT_MEASURES, type VerdictMeasure } from '../measures/registry';
import { markOf, type Mark } from './verdict';

/** Two measures that plainly moved in opposite ways. */
export type Opposed = { readonly up: VerdictMeasure; readonly down: VerdictMeasure };

/**
 * A verdict, the measure it is based on, what moved (null if nothing plainly did), and measures
 * that moved in opposite ways.
 */
export type MovedMeasures = {
  readonly mark: Mark | null;
  readonly judged: Measure;
  readonly movedIn: VerdictMeasure | null;
  readonly opposed: Opposed | null;
};

/**
 * The verdict of a comparison: the largest of the effects on appeal, expected clicks, position and
 * clicks, if it exceeds the critical value `cut` and clicks moved the same way. Independent of what
 * was expected.
 *
 * - `lead` appeal takes precedence if the change is about appeal.
 * - If two measures plainly moved in opposite ways, the verdict is that of clicks.
 * - If the largest effect only excludes zero by its own range, nothing is called, and the verdict
 *   is told by that measure, so that the range on screen is the one explained.
 * - Otherwise the verdict says whether the leading measure is unchanged.
 */
export function movedMeasures(effects: Estimates, cut: number, lead: 'appeal' | 'clicks'): MovedMeasures {
  const clicks = effects.clicks ? markOf('clicks', effects.clicks) : null;
  const opposed = opposedIn(effects, cut);
  if (opposed) {
    const moved = clicks === 'lifted' || clicks === 'dropped';
    return { mark: clicks, judged: 'clicks', movedIn: moved ? 'clicks' : null, opposed };
  }
  const top = leading(effects, cut, lead);
  if (top) {
    const { measure, up } = top;
    return { mark: up ? 'lifted' : 'dropped', judged: measure, movedIn: measure, opposed };
  }
  const near = maxStatistic((measure) => sizeIn(effects, measure));
  if (near && near.strength > 1) return { mark: 'unclear', judged: near.measure, movedIn: null, opposed };
  const judged = effects[lead] ? lead : 'clicks';
  const mark = effects[judged] ? markOf(judged, effects[judged]) : null;
  return { mark: mark && (mark === 'held' ? 'held' : 'unclear'), judged, movedIn: null, opposed };
}

function leading(effects: Estimates, cut: number, lead: 'appeal' | 'clicks'): MaxStatistic | null {
  const top = maxStatistic((measure) => sizeIn(effects, measure));
  if (!top?.agrees || top.strength <= cut) return null;
  const appeal = sizeIn(effects, 'appeal');
  if (lead !== 'appeal' || !(Math.abs(appeal) > cut) || appeal * sizeIn(effects, 'clicks') <= 0) return top;
  return { measure: 'appeal', strength: Math.abs(appeal), up: appeal > 0, agrees: true };
}

function opposedIn(effects: Estimates, cut: number): Opposed | null {
  const parts = VERDICT_MEASURES.filter((measure) => measure !== 'clicks');
  const size = (measure: VerdictMeasure) => (measure === 'rank' ? -1 : 1) * sizeIn(effects, measure);
  const most = parts.reduce((a, b) => (size(b) > size(a) ? b : a));
  const least = parts.reduce((a, b) => (size(b) < size(a) ? b : a));
  return size(most) > cut && size(least) < -cut ? { up: most, down: least } : null;
}

/** An effect in critical values, which makes measures comparable; NaN if absent. */
export function sizeIn(effects: Estimates, measure: Measure): number {
  const one = effects[measure];
  return one ? one.net / one.standardError / one.critical : NaN;
}
