/* Low CTR: pages with fewer clicks than usual on this site for the same queries and positions. */

import { appealPosterior, gammaMean, gammaQuantile, type AppealPrior, type Chosen } from './appealPosterior';
import { normalQuantile } from '../statistics/normal';
import { RANGE_HIGH, RANGE_LOW, type Gain } from './opening';

/**
 * Extra clicks a month of a page at the usual appeal: expected clicks times the shortfall of its
 * appeal, with the range of the posterior. Appeal is shrunk toward the site’s pages, so that a page
 * with a handful of clicks isn’t called bad.
 *
 * @param months how many months the counts cover
 * @param level the appeal that counts as usual
 *
 * @example
 * // A page with 100 clicks where 200 would be usual, over a month: about 100 clicks to gain.
 * gainOfAppeal({ shape: 9, rate: 9, dispersion: 1 }, { clicks: 100, expected: 200 }, 1).clicks //
 * 95.7
 */
export function gainOfAppeal(prior: AppealPrior, page: Chosen, months: number, level = 1): Gain {
  const posterior = appealPosterior(prior, page);
  const gain = (appeal: number) => ((level - appeal) * page.expected) / months;
  const most = gain(gammaMean(posterior));
  // Expected clicks are uncertain too: independent of the page’s counts, so variances add up.
  const unsure = (Z80 * USUAL_ERROR * level * page.expected) / months;
  return {
    clicks: Math.max(0, most),
    low: Math.max(0, most - Math.hypot(most - gain(gammaQuantile(posterior, RANGE_HIGH)), unsure)),
    high: Math.max(0, most + Math.hypot(gain(gammaQuantile(posterior, RANGE_LOW)) - most, unsure)),
  };
}

/** Log-scale error of expected clicks: of the CTR by position, and of the mix of query types. */
const USUAL_ERROR = 0.025;
/** Half the width of an 80% range in standard deviations. */
const Z80 = normalQuantile(0.9);
