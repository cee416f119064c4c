/* Chosen too little: pages whose results are chosen less than the site's usual at the same searches and positions. */

import { appealPosterior, gammaMean, gammaQuantile, type AppealPrior, type Chosen } from './appealPosterior';
import { normalQuantile } from '../statistics/normal';
import { RANGE_HIGH, RANGE_LOW, type Gain } from './opening';

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
  const gain = (appeal: number) => ((level - appeal) * page.expected) / months;
  const most = gain(gammaMean(posterior));
  // What is usual is not known to the last click either: added in squares, as it has nothing to do with the page's own counts.
  const unsure = (Z80 * USUAL_ERROR * level * page.expected) / months;
  return {
    clicks: Math.max(0, most),
    low: Math.max(0, most - Math.hypot(most - gain(gammaQuantile(posterior, RANGE_HIGH)), unsure)),
    high: Math.max(0, most + Math.hypot(gain(gammaQuantile(posterior, RANGE_LOW)) - most, unsure)),
  };
}

/** Error of what is usual for a page's showings, on the log scale: of the CTR by position, and of which searches are asked how. */
const USUAL_ERROR = 0.025;
/** Half the width of an 80% range in standard deviations. */
const Z80 = normalQuantile(0.9);
