/*
 * The scorebook: lines, winners and losers, changes without effect, and effects of title features.
 */

import type { Forecast, ForecastScore, OpeningForecast, OpeningScore } from './forecasts';
import { forecastScores, openingScore } from './forecasts';
import { markEffects, type MarkEffect } from './marks';
import type { Scored } from './scorebookModel';
import { poolScores } from './pool';
import { expectedFalse, ranked, type Ranked } from './ranked';
import { scoreLines, type ScoredBy, type ScoreLine } from './scorebook';

export type Scorebook = {
  readonly by: ScoredBy;
  readonly lines: readonly ScoreLine[];
  /** How many changes and rounds were read, of all sorts. */
  readonly read: number;
  /** All of them by their shrunken effect, the best first. */
  readonly ranked: readonly Ranked[];
  /**
   * Expected share of false ones among changes whose range excludes zero; null if there are none.
   */
  readonly expectedFalse: number | null;
  readonly marks: readonly MarkEffect[];
  readonly forecasts: { readonly person: readonly ForecastScore[]; readonly kind: readonly ForecastScore[] };
  readonly openings: OpeningScore | null;
};

/** What a scorebook is made from. */
export type BookSource = {
  readonly scored: readonly Scored[];
  readonly forecasts: readonly Forecast[];
  readonly openings: readonly OpeningForecast[];
};

/** The scorebook, its lines pooled in one of the ways. */
export function bookOf({ scored, forecasts, openings }: BookSource, by: ScoredBy): Scorebook {
  const order = ranked(scored);
  const titles = scored.filter(({ kind }) => kind === 'title-rewrite');
  const spread = poolScores(titles, 'appeal')?.spread ?? 0;
  return {
    ...{ by, lines: scoreLines(scored, by), read: scored.length, ranked: order },
    expectedFalse: expectedFalse(order.map(({ p }) => p)),
    marks: markEffects(titles, spread ** 2),
    forecasts: { person: forecastScores(forecasts, 'person'), kind: forecastScores(forecasts, 'kind') },
    openings: openingScore(openings),
  };
}
