/* Winners and losers: effects shrunk toward their type, and the expected share of false calls. */

import { varianceOf, type LogEffect } from '../effect/effect';
import { adjusted } from '../statistics/falseDiscovery';
import { CONFIDENCE, normalCdf, Z90 } from '../statistics/normal';
import { shrunken } from '../statistics/shrinkage';
import { likelySpreads } from '../statistics/spread';
import { measureOfKind, type Scored, type ScoredMeasure } from './scorebookModel';
import { poolScores, type PooledScore } from './pool';

/** A change with its effect as read and shrunk toward its type, on the log scale. */
export type Ranked = {
  readonly scored: Scored;
  readonly measure: ScoredMeasure;
  readonly raw: number;
  readonly shrunken: number;
  readonly standardError: number;
  /** How often an effect as large would be read where nothing was done, either way. */
  readonly p: number;
};

/** With fewer of a kind, all that are scored by the same measure stand for it. */
const FEWEST_OF_KIND = 5;

/** Changes by their shrunken effect, the best first. */
export function ranked(scored: readonly Scored[]): Ranked[] {
  const byKind = new Map<string, Scored[]>();
  for (const one of scored) byKind.set(one.kind, [...(byKind.get(one.kind) ?? []), one]);
  const whole = new Map<ScoredMeasure, PooledScore | null>();
  const wholeOf = (measure: ScoredMeasure) => {
    if (!whole.has(measure)) whole.set(measure, poolScores(scored, measure));
    return whole.get(measure)!;
  };
  return [...byKind]
    .flatMap(([kind, list]): Ranked[] => {
      const measure = measureOfKind(kind);
      const known = list.flatMap((one) => {
        const effect = one.estimates[measure];
        // With the margin, so that what is called here is what its own range calls.
        return effect ? [{ scored: one, raw: effect.net, variance: varianceOf(effect) }] : [];
      });
      const pooled = known.length < FEWEST_OF_KIND ? wholeOf(measure) : poolScores(list, measure);
      if (!pooled) return [];
      const raws = known.map(({ raw }) => raw);
      const variances = known.map(({ variance }) => variance);
      // The spread of few is known badly: all values that it could have count.
      const between = known.length < FEWEST_OF_KIND ? [pooled.spread ** 2] : likelySpreads(raws, variances);
      const drawn = shrunken(raws, variances, {
        ...{ mean: pooled.net, between, standardError: pooled.standardError },
      });
      return known.map(({ scored: one, raw, variance }, i) => ({
        ...{ scored: one, measure, raw },
        ...{ shrunken: drawn[i]!.mean, standardError: drawn[i]!.standardError },
        p: Math.min(1, 2 * (1 - normalCdf(Math.abs(raw) / Math.sqrt(variance)))),
      }));
    })
    .sort((a, b) => b.shrunken - a.shrunken || a.scored.title.localeCompare(b.scored.title));
}

/** The likely range (90%) of an adjusted effect, on the log scale. */
export function adjustedRange({ shrunken: net, standardError }: Ranked): LogEffect {
  return { net, low: net - Z90 * standardError, high: net + Z90 * standardError };
}

/**
 * Splits changes into winners, losers and the rest by their adjusted effects, the largest first. A
 * winner was read as lifted and its adjusted range lies above no effect; what is no longer plainly
 * either after adjustment belongs to the rest.
 */
export function winnersAndLosers(all: readonly Ranked[]): {
  readonly winners: readonly Ranked[];
  readonly losers: readonly Ranked[];
  readonly rest: readonly Ranked[];
} {
  const isWinner = (one: Ranked) => one.scored.verdict === 'lifted' && adjustedRange(one).low > 0;
  const isLoser = (one: Ranked) => one.scored.verdict === 'dropped' && adjustedRange(one).high < 0;
  const winners = all.filter(isWinner);
  const losers = all.filter(isLoser);
  return {
    winners: [...winners].sort((a, b) => b.shrunken - a.shrunken),
    losers: [...losers].sort((a, b) => a.shrunken - b.shrunken),
    rest: all.filter((one) => !isWinner(one) && !isLoser(one)),
  };
}

/**
 * Upper bound of the expected share of false calls (ranges that exclude zero without an effect);
 * null if nothing is called. `p` has all changes that were read.
 *
 * Source: Benjamini and Hochberg (see `falseDiscovery`).
 *
 * @example expectedFalse([0.01, 0.02, 0.9, 0.8]) // 0.04: two called of four, the larger at .02
 */
export function expectedFalse(p: readonly number[]): number | null {
  const levels = adjusted(p).filter((_, i) => p[i]! <= 1 - CONFIDENCE);
  return levels.length === 0 ? null : Math.max(...levels);
}
