/* The reading of a turn of a round: one half was changed, the other stood by. */

import type { Day } from '../calendar/day';
import type { Span } from '../calendar/span';
import { sharedVariance, varianceOf, type Estimates, type LogEffect } from '../effect/effect';
import { markOf, type Mark } from '../effect/verdict';
import { ROUND_MEASURES, roundMeasureOf, type RoundMeasure } from '../measures/registry';
import { isAboutAppeal, type Expectation, type PageRef } from '../model/change';
import type { Draw, Half, Round } from '../model/round';
import type { Draws } from '../statistics/draws';
import { normalCdf } from '../statistics/normal';
import { earlyLevel } from './early';
import { roundEffect, type RoundEffect, type RoundPage } from './effect';

export type RoundEffects = Readonly<Record<RoundMeasure, RoundEffect | null>>;

/** Totals of a half in a span: of all its pages that are read. Null where there are no figures. */
export type HalfTotals = {
  readonly clicks: number;
  readonly impressions: number;
  readonly position: number | null;
  readonly appeal: number | null;
};
export type HalfFigures = { readonly before: HalfTotals; readonly after: HalfTotals };

/** Why a page is not among those compared. */
export type LeftOut = {
  readonly page: PageRef;
  readonly half: Half;
  readonly reason: string;
  readonly changeId: number | null;
};

/** One page of a turn, by itself: its net move against the site, not against the other half. */
export type PageOfRound = {
  readonly page: PageRef;
  readonly half: Half;
  /** Whether it was changed in this turn. */
  readonly changed: boolean;
  readonly effects: Readonly<Record<RoundMeasure, (LogEffect & { readonly mark: Mark }) | null>>;
};

/** The reading of the turn of a half. */
export type TurnReading = {
  readonly half: Half;
  readonly day: Day;
  readonly before: Span;
  /** The whole after span, and as far as it is read. */
  readonly after: Span;
  readonly read: Span | null;
  readonly complete: boolean;
  readonly completeOn: Day | null;
  /**
   * What the changed half is compared with: the other half, or (all at once) the rest of the site.
   */
  readonly against: 'half' | 'site';
  readonly judged: RoundMeasure;
  readonly verdict: Mark | 'waiting';
  readonly movedIn: RoundMeasure | null;
  /** What is plain before the days are over, and since when; null where nothing is. */
  readonly early: { readonly called: 'lifted' | 'dropped'; readonly day: Day; readonly look: number } | null;
  readonly effects: RoundEffects;
  /** Effects from the draw alone, comparing only the halves; null without halves. */
  readonly alone: RoundEffects | null;
  readonly changed: HalfFigures;
  readonly waiting: HalfFigures | null;
  readonly pages: readonly PageOfRound[];
  readonly leftOut: readonly LeftOut[];
  readonly doubts: readonly string[];
};

/** The measure an experiment is judged by: the expected one, else appeal or clicks by its type. */
export function judgedOf(kind: string, expectation: Expectation | null): RoundMeasure {
  if (expectation) return roundMeasureOf(expectation.metric);
  return isAboutAppeal(kind) ? 'appeal' : 'clicks';
}

/** Rows of a turn as the engine read them, those of the changed half as the first. */
export type TurnRow = {
  readonly pageId: number;
  readonly block: number;
  readonly changed: boolean;
  readonly effects: Estimates;
};

/**
 * How the halves of a turn were assigned, the alternative draws, and the variance of the error that
 * unchanged pages share with all of them; absent if only the halves are compared.
 */
export type TurnDraw = {
  readonly draw: Draw;
  readonly draws: Draws;
  readonly common?: (measure: RoundMeasure) => number | null;
};

/**
 * Effects of a turn on measures by re-randomising its halves; halves chosen by hand are one block.
 */
export function turnEffects(
  rows: readonly TurnRow[],
  { draw, draws, common }: TurnDraw,
  measures: readonly RoundMeasure[] = ROUND_MEASURES,
): RoundEffects {
  const pages = rows.map(({ pageId, block, changed, effects }): RoundPage => ({
    ...{ pageId, effects, first: changed, block: draw === 'by-hand' ? 0 : block },
  }));
  return byRoundMeasure((measure) =>
    measures.includes(measure) ? roundEffect(pages, measure, draws, common?.(measure) ?? null) : null,
  );
}

/** The effects of all pages at once against the site, with p-values by the normal distribution. */
export function effectsAgainstSite(estimates: Estimates, pages: number): RoundEffects {
  return byRoundMeasure((measure) => {
    const one = estimates[measure];
    if (!one) return null;
    const z = one.net / Math.sqrt(varianceOf(one));
    return {
      ...{ net: one.net, low: one.low, high: one.high, pages, exact: false, waiting: 0 },
      shared: sharedVariance(one),
      p: 2 * (1 - normalCdf(Math.abs(z))),
    };
  });
}

/** Calls `of` for each measure of a round. */
export function byRoundMeasure<T>(of: (measure: RoundMeasure) => T): Record<RoundMeasure, T> {
  return Object.fromEntries(ROUND_MEASURES.map((measure) => [measure, of(measure)])) as Record<
    RoundMeasure,
    T
  >;
}

/** The mark of an effect by its range; unclear where there is none. */
export const markOfRound = (measure: RoundMeasure, effect: LogEffect | null): Mark =>
  effect ? markOf(measure, effect) : 'unclear';

/** The first daily look at which the judged measure was plain, if the last look agrees. */
export function plainLook(
  measure: RoundMeasure,
  looks: readonly { readonly look: number; readonly effect: RoundEffect | null }[],
  days: number,
): { readonly called: 'lifted' | 'dropped'; readonly look: number } | null {
  const last = looks.at(-1)?.effect;
  const first = looks.find(({ look, effect }) => effect !== null && effect.p <= earlyLevel(look, days));
  if (!first?.effect || !last || Math.sign(first.effect.net) !== Math.sign(last.net)) return null;
  const up = measure === 'rank' ? last.net < 0 : last.net > 0;
  return { called: up ? 'lifted' : 'dropped', look: first.look };
}

/**
 * The day a half was changed: the most frequent day of its pages, the earliest of ties; null if
 * none was.
 */
export function turnDay(pages: Round['pages']): Day | null {
  const days = pages.flatMap(({ steps }) => steps.made ?? []);
  const count = (day: Day) => days.filter((other) => other === day).length;
  return days.length === 0 ? null : [...new Set(days)].sort((a, b) => count(b) - count(a) || a - b)[0]!;
}
