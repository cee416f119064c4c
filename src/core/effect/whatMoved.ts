/* What moved: the verdict of a comparison by the strongest of its measures, or by the one it was made for. */

import type { Measure } from '../model/change';
import type { Estimates } from './effect';
import { strongest, VERDICT_MEASURES, type Strongest, type VerdictMeasure } from './strongest';
import { markOf, type Mark } from './verdict';

/** Two measures that plainly moved in opposite ways. */
export type Opposed = { readonly up: VerdictMeasure; readonly down: VerdictMeasure };

/** A verdict, the measure that it is told by, what moved (null where nothing plainly did), and what pulled against each other. */
export type WhatMoved = {
  readonly mark: Mark | null;
  readonly judged: Measure;
  readonly movedIn: VerdictMeasure | null;
  readonly opposed: Opposed | null;
};

/** Of which part of the way from showing to click each metric tells. */
const PART_OF: Readonly<Record<Measure, VerdictMeasure>> = {
  clicks: 'clicks',
  impressions: 'showings',
  ctr: 'appeal',
  position: 'rank',
  appeal: 'appeal',
  showings: 'showings',
  rank: 'rank',
};

/** The verdict on one measure that was named beforehand: its own interval decides. */
export function movedAsExpected(effects: Estimates, judged: Measure): WhatMoved {
  const effect = effects[judged];
  const mark = effect ? markOf(judged, effect) : null;
  const moved = mark === 'lifted' || mark === 'dropped';
  return { mark, judged, movedIn: moved ? PART_OF[judged] : null, opposed: opposedIn(effects, Infinity) };
}

/**
 * The verdict where nothing was named beforehand: the strongest of appeal, showings, rank and clicks, if it passes the cut and clicks went
 * the same way. Appeal goes before the others where it is what the change is about (`lead`). Where two plainly moved in opposite ways
 * the verdict is that of clicks. Where nothing moved, it is whether the leading measure held.
 */
export function whatMoved(effects: Estimates, cut: number, lead: 'appeal' | 'clicks'): WhatMoved {
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
  const judged = effects[lead] ? lead : 'clicks';
  const mark = effects[judged] ? markOf(judged, effects[judged]) : null;
  return { mark: mark && (mark === 'held' ? 'held' : 'unclear'), judged, movedIn: null, opposed };
}

function leading(effects: Estimates, cut: number, lead: 'appeal' | 'clicks'): Strongest | null {
  const top = strongest((measure) => sizeIn(effects, measure));
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

/** An effect in critical values, by which measures are held against each other; NaN where absent. */
export function sizeIn(effects: Estimates, measure: Measure): number {
  const one = effects[measure];
  return one ? one.net / one.standardError / one.critical : NaN;
}
