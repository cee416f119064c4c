import type { Measure } from '../../core/measures/registry';
import {
  randomBinomial,
  randomExponential,
  randomGamma,
  randomLcg,
  randomNormal,
  randomPoisson,
} from 'd3-random';

/*
 * A site made to be hard to read, with changes of which the true effect is known. It is a harder world than the demo
 * and shares nothing with it: every page has a season of its own, site, groups, page and query wander in interest, rank and
 * appeal, groups are such as no path shows, updates hit groups and pages differently, counts are over-dispersed, rare searches are
 * withheld, crawls come late, and half of the changed pages were picked because they had just dipped.
 */

export type SimulatedChange = {
  readonly page: number;
  /** Day counted from the first. */
  readonly day: number;
  readonly picked: 'at random' | 'after a dip';
  /** What it does: `exposure` is being shown for further searches, far down, at the cost of CTR. */
  readonly kind: 'none' | 'appeal' | 'rank' | 'reach' | 'exposure';
  /** Log effect on each measure over the after span: expected with the change over expected without. */
  readonly truth: Readonly<Record<SimulatedMeasure, number>>;
};

/** Measures whose true effect the simulator knows. */
export const SIMULATED_MEASURES = [
  'clicks',
  'impressions',
  'ctr',
  'position',
  'appeal',
  'showings',
  'rank',
] as const satisfies readonly Measure[];
export type SimulatedMeasure = (typeof SIMULATED_MEASURES)[number];

/** The daily rows of one query on a page; where a row is withheld they are 0. */
export type SimulatedQuery = Omit<SimulatedSeries, 'positionWeight'>;

export type SimulatedSeries = {
  clicks: Float64Array;
  impressions: Float64Array;
  positionSum: Float64Array;
  positionWeight: Float64Array;
};

export type SimulatedSite = {
  /** `path` is the part of the site that the address shows, and says little about who moves together. */
  readonly pages: readonly (SimulatedSeries & { path: number; queries: readonly SimulatedQuery[] })[];
  readonly changes: readonly SimulatedChange[];
};

export type World = {
  readonly seed: number;
  readonly pages: number;
  readonly days: number;
  readonly changes: number;
  readonly windowDays: number;
  readonly settlingDays: number;
  /** Every change that does something halves the clicks: by what is shown or by what is chosen, by turns. */
  readonly halved?: boolean;
  /**
   * How much site, groups, queries and updates move in how often they are chosen, of what they do on the usual sites (1). At 0 only pages do, each by itself.
   */
  readonly appealMoves?: number;
};

export const GROUPS = 4;
const PATHS = 3;
/** Share of the pages of a hidden group whose path is that of most of it. */
const TELLING = 0.35;
const UPDATES = 3;
/** Days before which no change is made, so that pages can be picked after a dip. */
const FIRST_CHANGE = 150;

/** Chance of a click by position: common practice, no published source. Sites differ in how steep it is, and past the first page
 *  it falls by more than a power of the position would. */
function clickRates(steep: number): (position: number) => number {
  return (position) => 0.24 * Math.pow(position, -steep) * (1 - 0.3 / (1 + Math.exp(-2 * (position - 10.5))));
}
/** A row of so few impressions is withheld about so often. */
const [RARE, WITHHELD] = [3, 0.6];

/** Simulates one world. The same seed gives the same site everywhere. */
export function simulateSite(world: World): SimulatedSite {
  const { pages: pageCount, days, appealMoves = 1 } = world;
  const random = randomLcg(((world.seed * 2654435761) >>> 0) / 2 ** 32);
  // The first numbers of neighbouring seeds resemble each other.
  for (let i = 0; i < 20; i++) random();
  const normal = randomNormal.source(random)();
  const poisson = randomPoisson.source(random);
  const gamma = randomGamma.source(random)(18, 1 / 18);
  const binomial = randomBinomial.source(random);
  const late = randomExponential.source(random)(0.4);
  const between = (low: number, high: number) => low + (high - low) * random();
  const season = (height: number) => {
    const [size, peak] = [height * Math.abs(normal()), random() * 365];
    return (day: number) => size * Math.cos((2 * Math.PI * (day - peak)) / 365.25);
  };
  /** A slow wander that remembers its past; `sd` is its long-run size. */
  const wander = (memory: number, sd: number) => {
    const step = sd * Math.sqrt(1 - memory * memory);
    let at = sd * normal();
    return () => (at = memory * at + step * normal());
  };

  const clickRate = clickRates(between(0.9, 1.4));
  const siteWander = wander(0.985, 0.08);
  const siteAppeal = wander(0.985, 0.03 * appealMoves);
  const siteSeason = season(0.3);
  const week = Array.from({ length: 7 }, () => 0.12 * normal());
  const groups = Array.from({ length: GROUPS }, () => ({
    season: season(0.3),
    wander: wander(0.985, 0.1),
    rank: wander(0.985, 0.03),
    appeal: wander(0.985, 0.04 * appealMoves),
    weekend: 0.15 * normal(),
  }));
  const updates = Array.from({ length: UPDATES }, () => ({
    day: Math.floor(between(40, days - 20)),
    ramp: Math.ceil(between(3, 14)),
    site: 0.06 * normal(),
    groups: Array.from({ length: GROUPS }, () => 0.18 * normal()),
    groupRanks: Array.from({ length: GROUPS }, () => 0.05 * normal()),
    pages: Array.from({ length: pageCount }, () => 0.08 * normal()),
    ranks: Array.from({ length: pageCount }, () => 0.05 * normal()),
    // What else result pages show comes and goes with updates, and takes clicks.
    appeal: 0.03 * appealMoves * normal(),
    groupAppeals: Array.from({ length: GROUPS }, () => 0.05 * appealMoves * normal()),
    appeals: Array.from({ length: pageCount }, () => 0.03 * appealMoves * normal()),
  }));
  const states = Array.from({ length: pageCount }, (_, i) => {
    const restless = Math.exp(0.35 * normal());
    const size = Math.exp(3.6 + 1.1 * normal());
    return {
      group: i % GROUPS,
      path: random() < TELLING ? (i % GROUPS) % PATHS : Math.floor(random() * PATHS),
      season: season(0.12),
      wander: wander(0.98, 0.13 * restless),
      appeal: wander(0.985, 0.06 * restless),
      own: 0.2 * normal(),
      // The last is that for which a page is shown only after it was changed for the sake of exposure.
      queries: Array.from({ length: 5 + Math.floor(random() * 9) }, (_q, rank) => ({
        interest: size * Math.pow(rank + 1, -0.9) * Math.exp(0.4 * normal()),
        wander: wander(0.965, 0.16),
        position: Math.log(Math.max(1.3, between(2, 9) + rank * between(0.5, 2))),
        rank: wander(0.97, 0.09),
        appeal: wander(0.97, 0.08 * appealMoves),
      })),
    };
  });

  type Rates = { clicks: number; impressions: number; positionSum: number; showings: number; rank: number };
  const column = () => new Float64Array(days);
  const series = states.map(({ path, queries }) => {
    const impressions = column();
    return {
      path,
      ...{ clicks: column(), impressions, positionSum: column() },
      // Every showing has a position.
      positionWeight: impressions,
      queries: queries.map(() => ({ clicks: column(), impressions: column(), positionSum: column() })),
    };
  });
  const planned = planDays(world, between);
  const active: Record<'page' | 'day' | 'start' | 'appeal' | 'rank' | 'reach' | 'exposure', number>[] = [];
  const expected = new Map<number, { with: Rates; without: Rates }>();
  const changes: SimulatedChange[] = [];

  for (let day = 0; day < days; day++) {
    for (const plan of planned.filter((one) => one.day === day)) {
      const page = pickPage(plan.picked, day, world, series, active, random);
      if (page === null) continue;
      const drawn = between(0.08, 0.5) * (random() < 0.7 ? 1 : -1);
      const size = world.halved ? -Math.LN2 : drawn;
      active.push({
        page,
        day,
        start: day + 1 + Math.min(12, late()),
        appeal: plan.kind === 'appeal' ? size : 0,
        rank: plan.kind === 'rank' ? -0.7 * size : 0,
        reach: plan.kind === 'reach' ? size : 0,
        exposure: plan.kind === 'exposure' ? Math.abs(size) : 0,
      });
      expected.set(active.length - 1, { with: noRates(), without: noRates() });
      changes.push({ page, day, picked: plan.picked, kind: plan.kind, truth: NO_EFFECT });
    }
    const site = siteWander() + siteSeason(day) + week[day % 7]!;
    const appealNow = siteAppeal();
    const groupRanks = groups.map((g) => g.rank());
    const groupAppeals = groups.map((g) => g.appeal());
    const groupNow = groups.map((g) => g.wander() + g.season(day) + (day % 7 >= 5 ? g.weekend : 0));
    states.forEach((state, page) => {
      let [reach, rank, appeal, exposure] = [
        site + groupNow[state.group]! + state.wander() + state.season(day),
        groupRanks[state.group]!,
        state.own + state.appeal() + 0.08 * normal() + appealNow + groupAppeals[state.group]!,
        0,
      ];
      for (const update of updates) {
        const share = Math.min(1, Math.max(0, (day - update.day) / update.ramp));
        reach += share * (update.site + update.groups[state.group]! + update.pages[page]!);
        rank += share * (update.ranks[page]! + update.groupRanks[state.group]!);
        appeal += share * (update.appeal + update.groupAppeals[state.group]! + update.appeals[page]!);
      }
      const plain = { reach, rank, appeal, exposure };
      active.forEach((one) => {
        if (one.page !== page) return;
        const share = Math.min(1, Math.max(0, (day - one.start) / 3));
        reach += share * one.reach;
        rank += share * one.rank;
        appeal += share * one.appeal;
        exposure += share * one.exposure;
      });
      const number = active.findLastIndex((one) => one.page === page);
      const sums = number >= 0 && inAfterSpan(active[number]!.day, day, world) ? expected.get(number)! : null;
      const whole = state.queries.slice(0, -1).reduce((sum, query) => sum + query.interest, 0);
      state.queries.forEach((query, number) => {
        const [drift, ranks, chosen] = [query.wander(), query.rank(), query.appeal()];
        const further = number === state.queries.length - 1;
        const rate = (state: typeof plain) => {
          const position = Math.max(1, Math.exp((further ? FAR_DOWN : query.position) + ranks + state.rank));
          // Far down, most lists are never opened that far.
          const seen = 1 / (1 + Math.pow(position / 15, 2));
          const interest = further ? 2 * whole * state.exposure : query.interest;
          const usual = clickRate(position);
          return {
            impressions: interest * seen * Math.exp(state.reach + drift),
            position,
            // Where it would stand on this day if nothing had been changed.
            own: Math.max(1, Math.exp((further ? FAR_DOWN : query.position) + ranks + plain.rank)),
            usual,
            click: Math.min(0.8, usual * Math.exp(state.appeal + chosen)),
          };
        };
        const now = rate({ reach, rank, appeal, exposure });
        if (sums) {
          addRates(sums.with, now);
          addRates(sums.without, rate(plain));
        }
        const impressions = poisson(now.impressions * gamma())();
        if (impressions === 0) return;
        const own = series[page]!;
        const clicks = binomial(impressions, now.click)();
        const positionSum = impressions * Math.max(1, now.position + 0.3 * normal());
        own.impressions[day]! += impressions;
        own.clicks[day]! += clicks;
        own.positionSum[day]! += positionSum;
        if (impressions < RARE && random() < WITHHELD) return;
        const row = own.queries[number]!;
        row.impressions[day] = impressions;
        row.clicks[day] = clicks;
        row.positionSum[day] = positionSum;
      });
    });
  }
  return {
    pages: series,
    changes: changes.map((change, i) => {
      const { with: w, without } = expected.get(i)!;
      const ratio = (of: (r: Rates) => number) => Math.log(of(w) / of(without));
      const truth =
        change.kind === 'none'
          ? NO_EFFECT
          : {
              clicks: ratio((r) => r.clicks),
              impressions: ratio((r) => r.impressions),
              ctr: ratio((r) => r.clicks / r.impressions),
              position: ratio((r) => r.positionSum / r.impressions),
              showings: ratio((r) => r.showings),
              appeal: ratio((r) => r.clicks / r.showings),
              rank: w.rank / w.impressions - without.rank / without.impressions,
            };
      return { ...change, truth };
    }),
  };

  function noRates(): Rates {
    return { clicks: 0, impressions: 0, positionSum: 0, showings: 0, rank: 0 };
  }
  function addRates(
    to: Rates,
    rate: { impressions: number; position: number; own: number; usual: number; click: number },
  ): void {
    to.impressions += rate.impressions;
    to.clicks += rate.impressions * rate.click;
    to.positionSum += rate.impressions * rate.position;
    to.showings += rate.impressions * rate.usual;
    to.rank += rate.impressions * Math.log(rate.position / rate.own);
  }
}

export const NO_EFFECT = { clicks: 0, impressions: 0, ctr: 0, position: 0, showings: 0, appeal: 0, rank: 0 };

function inAfterSpan(changeDay: number, day: number, { windowDays, settlingDays }: World): boolean {
  return day >= changeDay + settlingDays && day < changeDay + settlingDays + windowDays;
}

type Plan = { day: number; picked: SimulatedChange['picked']; kind: SimulatedChange['kind'] };

/** When changes are made, how their pages are picked, and whether they do anything: half of them do not. */
function planDays(world: World, between: (low: number, high: number) => number): Plan[] {
  const last = world.days - world.windowDays - world.settlingDays;
  const real = world.halved
    ? (['appeal', 'reach'] as const)
    : (['appeal', 'rank', 'reach', 'exposure'] as const);
  return Array.from({ length: world.changes }, (_, i) => ({
    day: Math.floor(between(FIRST_CHANGE, last)),
    picked: i % 2 === 0 ? ('at random' as const) : ('after a dip' as const),
    kind: i % 4 < 2 ? 'none' : real[Math.floor(i / 4) % real.length]!,
  }));
}

/** Log position of searches that a page is only shown for once it was changed for exposure. */
const FAR_DOWN = Math.log(14);

/** Days after which a page may be changed again. */
const REST_DAYS = 160;

/** A page that was not changed of late: any, or the one that fell furthest below its own longer level. */
function pickPage(
  picked: SimulatedChange['picked'],
  day: number,
  world: World,
  series: readonly SimulatedSeries[],
  active: readonly { page: number; day: number }[],
  random: () => number,
): number | null {
  const sum = (clicks: Float64Array, from: number, to: number) => {
    let total = 0;
    for (let i = from; i < to; i++) total += clicks[i]!;
    return total;
  };
  const free = series
    .map((one, page) => ({ one, page }))
    .filter(
      ({ one, page }) =>
        !active.some((change) => change.page === page && day - change.day < REST_DAYS) &&
        sum(one.clicks, day - world.windowDays, day) >= 10,
    );
  if (free.length === 0) return null;
  if (picked === 'at random') return free[Math.floor(random() * free.length)]!.page;
  const dip = ({ one }: (typeof free)[number]) =>
    Math.log(
      (sum(one.clicks, day - world.windowDays, day) + 0.5) /
        (sum(one.clicks, day - 5 * world.windowDays, day - world.windowDays) / 4 + 0.5),
    );
  return free.reduce((a, b) => (dip(b) < dip(a) ? b : a)).page;
}
