/*
 * How much the appeal of queries varies about that of their page: the error of an estimate for one
 * query.
 */

import { appealPosterior, gammaMean } from './appealPosterior';
import type { PairFigures, SiteAppeal } from './site';

/** Assumed where there are too few queries to tell, and what that weighs as. */
const [USUAL, PRIOR] = [0.25, 20];
/** A query has to be expected to bring so many clicks to tell anything. */
const FEWEST = 3;

/**
 * Standard deviation of a query’s log appeal about its page’s, by moments, beyond counting noise.
 *
 * Source: DerSimonian and Laird, Controlled Clinical Trials 7 (1986), of a variance between
 * studies, here between queries.
 */
export function querySpread(pairs: readonly PairFigures[], { prior, byPage }: SiteAppeal): number {
  let [sum, weight] = [PRIOR * USUAL ** 2, PRIOR];
  for (const { pageId, brand, clicks, expected } of pairs) {
    const page = byPage.get(pageId);
    if (brand || !page) continue;
    const fitted = expected * gammaMean(appealPosterior(prior, page));
    if (fitted < FEWEST) continue;
    const excess = ((clicks - fitted) ** 2 - fitted) / fitted ** 2;
    // One over the variance of the moment, roughly.
    const own = 1 / (1 / fitted + USUAL ** 2) ** 2 / 400;
    sum += own * excess;
    weight += own;
  }
  return Math.sqrt(Math.max(0, sum / weight));
}
