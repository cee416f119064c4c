/* Chosen too little: pages whose results are chosen less than the site's usual at the same searches and positions. */

import { appealPosterior, gammaMean, gammaQuantile, type AppealPrior, type Chosen } from './appealPosterior';
import { RANGE_HIGH, RANGE_LOW, type Gain } from './model';

/**
 * What a page would gain if it were chosen as its showings usually are: showings times what its appeal lacks of the site's, with the
 * range of its posterior. Appeal is shrunk toward the site's pages, so that one with a handful of clicks is not called bad. `months` is
 * how many months the counts are of; `level` the appeal that counts as usual.
 *
 * @example
 * // A page of 100 clicks where 200 would be usual, over a month: about 100 clicks to gain.
 * gainOfAppeal({ shape: 9, rate: 9, dispersion: 1 }, { clicks: 100, expected: 200 }, 1).clicks // 95.7
 */
export function gainOfAppeal(prior: AppealPrior, page: Chosen, months: number, level = 1): Gain {
  const posterior = appealPosterior(prior, page);
  const gain = (appeal: number) => (Math.max(0, level - appeal) * page.expected) / months;
  return {
    clicks: gain(gammaMean(posterior)),
    low: gain(gammaQuantile(posterior, RANGE_HIGH)),
    high: gain(gammaQuantile(posterior, RANGE_LOW)),
  };
}
