import { randomBinomial, randomPoisson } from 'd3-random';
import type { SimulatedSite } from '../calibration/simulate';

type Page = SimulatedSite['pages'][number];

/**
 * A simulated page with a title that is chosen more or less often from a day on: every search of it, and what no search accounts for, brings so many
 * clicks more (`effect` 0.15: 15%) or fewer.
 */
export function retitled(page: Page, effect: number, day: number, random: () => number): Page {
  const poisson = randomPoisson.source(random);
  const binomial = randomBinomial.source(random);
  const further = (own: number) => {
    if (own <= 0 || effect === 0) return 0;
    return effect > 0 ? poisson(effect * own)() : -binomial(own, -effect)();
  };
  const clicks = page.clicks.slice();
  const queries = page.queries.map((query) => ({ ...query, clicks: query.clicks.slice() }));
  for (let at = day; at < clicks.length; at++) {
    let named = 0;
    for (const query of queries) {
      named += query.clicks[at]!;
      const more = further(query.clicks[at]!);
      query.clicks[at]! += more;
      clicks[at]! += more;
    }
    clicks[at]! += further(page.clicks[at]! - named);
  }
  return { ...page, clicks, queries };
}
