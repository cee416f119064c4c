import { randomExponential, randomGamma, randomLcg, randomNormal, randomPoisson } from 'd3-random';

/*
 * A site of which the truth is known: every page's appeal, every query's own, and the CTR by position. Shares nothing with the
 * demo. Positions wander from day to day, counts are over-dispersed, rare searches are withheld, some queries are for the site itself
 * and chosen far more often, and pages differ in size by a factor of hundreds.
 */

export type SimulatedPair = {
  readonly page: number;
  readonly query: number;
  readonly brand: boolean;
  clicks: number;
  impressions: number;
  positionSum: number;
  /** Clicks that the showings would bring at the true CTR by position. */
  trueShowings: number;
  /** Its rows by day that were not withheld. */
  readonly rows: {
    readonly day: number;
    readonly clicks: number;
    readonly impressions: number;
    readonly position: number;
  }[];
  /** Times as often as the site's usual this query on this page is chosen. */
  readonly trueAppeal: number;
};

export type SimulatedOpenings = {
  readonly pages: number;
  readonly days: number;
  readonly pairs: readonly SimulatedPair[];
  /** What was withheld of each page: its own totals hold it, its rows by query do not. */
  readonly unseen: readonly { clicks: number; impressions: number; positionSum: number }[];
  readonly trueCurve: (position: number) => number;
  /** Of each page without searches for the site itself: clicks over those at the true curve, and those, withheld ones included. */
  readonly truth: readonly { readonly appeal: number; readonly showings: number }[];
};

const [RARE, WITHHELD] = [3, 0.6];

/** Makes a site by a seed. */
export function simulateOpenings(seed: number, pages: number, days: number): SimulatedOpenings {
  const source = randomLcg(seed / 0xffffffff);
  const normal = randomNormal.source(source)();
  const poisson = (mean: number) => (mean > 0 ? randomPoisson.source(source)(mean)() : 0);
  const steep = 0.95 + 0.3 * source();
  const trueCurve = (position: number) =>
    0.24 * Math.max(1, position) ** -steep * (1 - 0.3 / (1 + Math.exp(-2 * (position - 10.5))));
  const gamma = randomGamma.source(source);
  const size = randomExponential.source(source)(1);
  const pairs: SimulatedPair[] = [];
  const unseen = Array.from({ length: pages }, () => ({ clicks: 0, impressions: 0, positionSum: 0 }));
  const truth: { appeal: number; showings: number }[] = [];
  let queries = 0;
  for (let page = 0; page < pages; page++) {
    const appeal = Math.exp(0.4 * normal());
    const level = Math.exp(1.2 * normal()) * 12;
    const standing = 2 + 9 * source();
    let [chosen, showings] = [0, 0];
    const count = 4 + Math.floor(22 * source());
    for (let q = 0; q < count; q++) {
      const brand = page < 4 && q < 3;
      const own = Math.exp(0.2 * normal());
      const pair: SimulatedPair = {
        ...{
          page,
          query: queries++,
          brand,
          clicks: 0,
          impressions: 0,
          positionSum: 0,
          trueShowings: 0,
          rows: [],
        },
        trueAppeal: appeal * own * (brand ? 4 : 1),
      };
      const mean = level * size() * (brand ? 3 : 1);
      const usual = brand ? 1.2 : Math.max(1, standing * Math.exp(0.5 * normal()));
      for (let day = 0; day < days; day++) {
        const impressions = poisson(mean * gamma(4, 1 / 4)());
        if (impressions === 0) continue;
        const position = Math.max(1, usual * Math.exp(0.12 * normal()));
        const expected = impressions * trueCurve(position);
        // Chosen by days of different minds.
        const clicks = Math.min(impressions, poisson(expected * pair.trueAppeal * gamma(8, 1 / 8)()));
        if (!brand) {
          chosen += expected * pair.trueAppeal;
          showings += expected;
        }
        pair.trueShowings += expected;
        if (impressions <= RARE && source() < WITHHELD) {
          unseen[page]!.clicks += clicks;
          unseen[page]!.impressions += impressions;
          unseen[page]!.positionSum += impressions * position;
        } else {
          pair.clicks += clicks;
          pair.impressions += impressions;
          pair.positionSum += impressions * position;
          pair.rows.push({ day, clicks, impressions, position });
        }
      }
      pairs.push(pair);
    }
    truth.push({ appeal: showings > 0 ? chosen / showings : 1, showings });
  }
  return { pages, days, pairs, unseen, trueCurve, truth };
}
