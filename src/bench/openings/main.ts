import { positionCurve } from '../../core/appeal/positionCurve';
import type { Gain } from '../../core/openings/opening';
import { siteAppeal, type PairFigures } from '../../core/openings/site';
import { gainOfAppeal } from '../../core/openings/tooLittle';
import { gainOfPosition, rulesOfThumb, targetPosition } from '../../core/openings/withinReach';
import { querySpread } from '../../core/openings/querySpread';
import { simulateOpenings, type SimulatedOpenings } from './simulate';

/*
 * Holds estimates of openings against the truth of simulated sites: rank correlation, sums, and how often 80% ranges hold the truth; rules
 * of thumb beside them. Arguments: the first seed, and the number of sites.
 */

const [FIRST, SITES] = [Number(process.argv[2] ?? 1), Number(process.argv[3] ?? 40)];
const [PAGES, DAYS, MONTH] = [80, 28, 30];

type Judged = { readonly estimate: Gain; readonly truth: number; readonly rules: readonly number[] };

const found: { 'chosen too little': Judged[][]; 'within reach': Judged[][] } = {
  'chosen too little': [],
  'within reach': [],
};

for (let seed = FIRST; seed < FIRST + SITES; seed++) {
  const site = simulateOpenings(seed, PAGES, DAYS);
  const { tooLittle, withinReach } = judge(site);
  found['chosen too little'].push(tooLittle);
  found['within reach'].push(withinReach);
}

function judge(site: SimulatedOpenings) {
  const months = site.days / MONTH;
  const seen = site.pairs.filter(({ impressions }) => impressions > 0);
  const curve = positionCurve(
    seen
      .filter(({ brand }) => !brand)
      .map(({ page, clicks, impressions, positionSum }) => ({
        ...{ page, clicks, impressions },
        position: positionSum / impressions,
      })),
  );
  const pairs = seen.map(({ page, query, brand, clicks, impressions, positionSum }): PairFigures => {
    const position = positionSum / impressions;
    return {
      ...{ pageId: page, queryId: query, brand, clicks, impressions, position },
      expected: impressions * curve(position),
    };
  });
  const rest = new Map(
    site.unseen.map(({ clicks, impressions, positionSum }, page) => [
      page,
      { clicks, expected: impressions > 0 ? impressions * curve(positionSum / impressions) : 0 },
    ]),
  );
  const days = Array.from({ length: site.pages }, () =>
    Array.from({ length: site.days }, () => ({ clicks: 0, expected: 0 })),
  );
  for (const { page, rows } of seen)
    for (const { day, clicks, impressions, position } of rows) {
      days[page]![day]!.clicks += clicks;
      days[page]![day]!.expected += impressions * curve(position);
    }
  const appeal = siteAppeal(pairs, { rest, days }, curve);
  // What counts as usual is the appeal of all pages together, in the truth as in the estimate.
  const total = site.truth.reduce((sum, { showings }) => sum + showings, 0);
  const usual = site.truth.reduce((sum, { appeal: own, showings }) => sum + own * showings, 0) / total;
  const tooLittle: Judged[] = [];
  for (const [page, chosen] of appeal.byPage) {
    const { appeal: own, showings } = site.truth[page]!;
    const of = pairs.filter(({ pageId, brand }) => pageId === page && !brand);
    const impressions = of.reduce((sum, one) => sum + one.impressions, 0);
    const clicks = of.reduce((sum, one) => sum + one.clicks, 0);
    tooLittle.push({
      estimate: gainOfAppeal(appeal.prior, chosen, months, appeal.level),
      truth: (showings * Math.max(0, usual - own)) / months,
      rules: [
        Math.max(0, 0.2 * impressions - clicks),
        impressions,
        Math.max(0, chosen.expected - chosen.clicks),
      ],
    });
  }
  const spread = querySpread(pairs, appeal);
  if (process.env.SHOW)
    console.log('spread', spread, 'dispersion', appeal.prior.dispersion, 'shape', appeal.prior.shape);
  const withinReach = pairs.flatMap((pair): Judged[] => {
    const target = targetPosition(pair.position!);
    if (target === null || pair.brand) return [];
    const true_ = site.pairs.find(({ page, query }) => page === pair.pageId && query === pair.queryId)!;
    const { potential, ceiling } = rulesOfThumb({ ...pair, position: pair.position! });
    const gain =
      site.trueCurve(target) * pair.impressions - (true_.trueShowings * pair.impressions) / true_.impressions;
    return [
      {
        estimate: gainOfPosition(
          { impressions: pair.impressions, position: pair.position! },
          target,
          curve,
          { prior: appeal.prior, page: appeal.byPage.get(pair.pageId)!, own: pair, spread },
          months,
        ),
        truth: (Math.max(0, gain) * true_.trueAppeal) / months,
        rules: [ceiling, potential],
      },
    ];
  });
  return { tooLittle, withinReach };
}

const RULES = {
  'chosen too little': ['20% of impressions less clicks', 'impressions', 'without shrinkage'],
  'within reach': ['20% of impressions less clicks', 'impressions × position'],
} as const;

for (const [kind, sites] of Object.entries(found) as [keyof typeof found, Judged[][]][]) {
  const all = sites.flat();
  const mean = (values: number[]) => values.reduce((a, b) => a + b, 0) / values.length;
  const correlation = (of: (one: Judged) => number) =>
    mean(
      sites.map((site) =>
        spearman(
          site.map(of),
          site.map(({ truth }) => truth),
        ),
      ),
    );
  const sum = (of: (one: Judged) => number) => all.reduce((total, one) => total + of(one), 0);
  // A range that says nothing is to be gained, of a page of which that is so, holds the truth.
  const held =
    all.filter(({ estimate, truth }) => truth >= estimate.low - 1e-9 && truth <= estimate.high + 1e-9)
      .length / all.length;
  const telling = all.filter(({ truth, estimate }) => truth > 0 || estimate.high > 0);
  const heldTelling =
    telling.filter(({ estimate, truth }) => truth >= estimate.low && truth <= estimate.high).length /
    telling.length;
  console.log(`${kind}: ${all.length} on ${sites.length} sites, seeds ${FIRST} to ${FIRST + SITES - 1}`);
  console.log(
    `  estimate                        rank correlation ${correlation(({ estimate }) => estimate.clicks).toFixed(3)}, sum ${(sum(({ estimate }) => estimate.clicks) / sum(({ truth }) => truth)).toFixed(3)} of the truth, 80% ranges hold it ${(100 * held).toFixed(1)} (${(100 * heldTelling).toFixed(1)} where there is something)`,
  );
  RULES[kind].forEach((name, i) =>
    console.log(
      `  ${name.padEnd(31)} rank correlation ${correlation(({ rules }) => rules[i]!).toFixed(3)}, sum ${(((sum(({ rules }) => rules[i]!) / DAYS) * MONTH) / sum(({ truth }) => truth)).toFixed(3)}`,
    ),
  );
}

/** Spearman's rank correlation, ties by mean ranks. */
function spearman(a: readonly number[], b: readonly number[]): number {
  const [x, y] = [ranks(a), ranks(b)];
  const mean = (x.length + 1) / 2;
  let [xy, xx, yy] = [0, 0, 0];
  for (let i = 0; i < x.length; i++) {
    xy += (x[i]! - mean) * (y[i]! - mean);
    xx += (x[i]! - mean) ** 2;
    yy += (y[i]! - mean) ** 2;
  }
  return xy / Math.sqrt(xx * yy);
}

function ranks(values: readonly number[]): number[] {
  const order = values.map((_, i) => i).sort((a, b) => values[a]! - values[b]!);
  const found = new Array<number>(values.length);
  for (let from = 0; from < order.length;) {
    let to = from;
    while (to < order.length && values[order[to]!] === values[order[from]!]) to++;
    for (let i = from; i < to; i++) found[order[i]!] = (from + 1 + to) / 2;
    from = to;
  }
  return found;
}
