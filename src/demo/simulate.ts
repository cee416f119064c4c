import {
  randomBinomial,
  randomExponential,
  randomGamma,
  randomLcg,
  randomLogNormal,
  randomNormal,
  randomPoisson,
} from 'd3-random';
import { addDays, isoWeekday, type Day } from '../core/calendar/day';
import type { DemoPage, Season } from './pages';
import type { DemoChange, DemoEvent } from './story';

/** A simulated row: totals of a page by device, or one query of a page. */
export type SimulatedPageRow = {
  day: Day;
  path: string;
  device: string;
  clicks: number;
  impressions: number;
  position: number;
};
export type SimulatedQueryRow = {
  day: Day;
  path: string;
  query: string;
  clicks: number;
  impressions: number;
  position: number;
};

export type Simulated = { pageRows: SimulatedPageRow[]; queryRows: SimulatedQueryRow[] };

export type SimulationInput = {
  readonly pages: readonly DemoPage[];
  readonly changes: readonly DemoChange[];
  readonly events: readonly DemoEvent[];
  readonly lostDaysAgo: readonly number[];
  readonly lastDay: Day;
  readonly days: number;
  readonly seed: number;
};

const DEVICES = [
  { name: 'mobile', share: 0.58 },
  { name: 'desktop', share: 0.36 },
  { name: 'tablet', share: 0.06 },
];

/** Monday to Sunday. */
const WEEKDAY = [1.04, 1.0, 0.98, 0.95, 0.92, 1.02, 1.09];

/** Middle of each season's peak, as a day of the year, and its height on the log scale. */
const SEASONS: Record<Season, { peak: number; height: number }> = {
  spring: { peak: 125, height: 0.5 },
  summer: { peak: 205, height: 0.42 },
  autumn: { peak: 310, height: 0.42 },
  level: { peak: 120, height: 0.15 },
};

/** Chance of a click by position, before a page's own appeal: common practice, no published source. */
function baseClickRate(position: number): number {
  return 0.19 * Math.pow(position, -1.05);
}

/**
 * Simulates the search figures of a site day by day: a season for each page, a weekly rhythm, slow drift of site,
 * page and query that remembers its past, updates that hit parts of the site differently, over-dispersed counts,
 * changes that work on appeal, reach or rank some days after they were made, and rare searches that are withheld
 * from the query rows. The same seed and last day give the same figures everywhere.
 */
export function simulate(input: SimulationInput): Simulated {
  const random = randomLcg(input.seed / 1000);
  const normal = randomNormal.source(random)();
  const uniform = random;
  const poisson = randomPoisson.source(random);
  const gamma = randomGamma.source(random);
  const binomial = randomBinomial.source(random);
  const firstDay = addDays(input.lastDay, 1 - input.days);
  const lost = new Set(input.lostDaysAgo);

  const draw = (mean: number, dispersion: number) =>
    mean <= 0 ? 0 : poisson(mean * gamma(dispersion, 1 / dispersion)())();
  const clicksOf = (impressions: number, rate: number) =>
    impressions === 0 ? 0 : binomial(impressions, Math.min(0.9, rate))();

  const pages = input.pages.map((page) => ({
    page,
    appeal: Math.exp(0.18 * normal()),
    drift: 0.15 * normal(),
    crawlLag: input.changes.map(() => Math.round(1 + randomExponential.source(random)(0.5)())),
    queries: page.queries.map((text, rank) => ({
      text,
      // Interest falls off along the list, and each query finds the page at a rank of its own.
      interest: page.interest * Math.pow(rank + 1, -0.85) * randomLogNormal.source(random)(0, 0.3)(),
      position: Math.max(1.2, 2.5 + rank * 1.1 + 2.2 * normal()),
      drift: 0.2 * normal(),
      rankDrift: 0,
    })),
  }));

  const pageRows: SimulatedPageRow[] = [];
  const queryRows: SimulatedQueryRow[] = [];
  let siteDrift = 0;

  for (let i = 0; i < input.days; i++) {
    const day = addDays(firstDay, i);
    const ago = input.days - 1 - i;
    siteDrift = 0.985 * siteDrift + 0.012 * normal();
    for (const state of pages) {
      const { page } = state;
      state.drift = 0.97 * state.drift + 0.03 * normal();
      const works = effectsOn(page.path, ago, input, state.crawlLag);
      const level = Math.exp(
        siteDrift +
          state.drift +
          seasonOf(page.season, day) +
          Math.log(WEEKDAY[isoWeekday(day) - 1] ?? 1) +
          works.logReach,
      );
      const total = { clicks: 0, impressions: 0, positionSum: 0 };
      for (const query of state.queries) {
        query.drift = 0.96 * query.drift + 0.04 * normal();
        query.rankDrift = 0.95 * query.rankDrift + 0.05 * normal();
        const position = Math.max(1, query.position + query.rankDrift - works.places);
        // A better rank is also seen more often: far down, most lists are never opened that far.
        const seen = 1 / (1 + Math.pow(position / 14, 2));
        const impressions = draw(0.6 * query.interest * level * seen * Math.exp(query.drift), 25);
        const clicks = clicksOf(impressions, baseClickRate(position) * state.appeal * works.appeal);
        const shown = Math.max(1, position + 0.25 * normal());
        total.clicks += clicks;
        total.impressions += impressions;
        total.positionSum += shown * impressions;
        const withheld = impressions < 3 && uniform() < 0.7;
        if (impressions > 0 && !withheld && !lost.has(ago)) {
          queryRows.push({ day, path: page.path, query: query.text, clicks, impressions, position: shown });
        }
      }
      // Searches too rare to be named at all: a tenth of the rest, further down.
      const rare = draw(0.1 * total.impressions, 10);
      total.impressions += rare;
      total.positionSum += rare * 11;
      total.clicks += clicksOf(rare, baseClickRate(11) * state.appeal * works.appeal);
      if (!lost.has(ago)) pageRows.push(...divideByDevice(day, page.path, total, binomial, uniform));
    }
  }
  return { pageRows, queryRows };
}

function seasonOf(season: Season, day: Day): number {
  const { peak, height } = SEASONS[season];
  const dayOfYear = day % 365.25;
  return height * Math.cos((2 * Math.PI * (dayOfYear - peak)) / 365.25);
}

/** What the changes and updates of a page do to it on a day, given as days before the last. */
function effectsOn(path: string, ago: number, input: SimulationInput, crawlLag: readonly number[]) {
  let [appeal, logReach, places] = [1, 0, 0];
  input.changes.forEach((change, i) => {
    const since = change.ago - ago - (crawlLag[i] ?? 0);
    if (since < 0 || !change.pages.includes(path)) return;
    const share = Math.min(1, (since + 1) / 4);
    appeal *= Math.pow(change.effect.appeal ?? 1, share);
    logReach += share * Math.log(change.effect.reach ?? 1);
    places += share * (change.effect.places ?? 0);
  });
  for (const event of input.events) {
    const since = event.ago - ago;
    if (since < 0) continue;
    for (const [part, reach] of Object.entries(event.reach ?? {})) {
      if (path.startsWith(part)) logReach += Math.min(1, (since + 1) / event.days) * Math.log(reach);
    }
  }
  return { appeal, logReach, places };
}

function divideByDevice(
  day: Day,
  path: string,
  total: { clicks: number; impressions: number; positionSum: number },
  binomial: ReturnType<typeof randomBinomial.source>,
  uniform: () => number,
): SimulatedPageRow[] {
  if (total.impressions === 0) return [];
  const position = total.positionSum / total.impressions;
  const rows: SimulatedPageRow[] = [];
  let { clicks, impressions } = total;
  let left = 1;
  DEVICES.forEach(({ name, share }, i) => {
    const last = i === DEVICES.length - 1;
    const part = last ? impressions : impressions === 0 ? 0 : binomial(impressions, share / left)();
    // Clicks follow the impressions, and never outnumber them on any device.
    const clicked = last
      ? clicks
      : Math.min(
          part,
          Math.max(
            clicks - (impressions - part),
            Math.round((clicks * part) / Math.max(1, impressions) + uniform() - 0.5),
          ),
        );
    impressions -= part;
    clicks -= clicked;
    left -= share;
    if (part > 0) rows.push({ day, path, device: name, clicks: clicked, impressions: part, position });
  });
  return rows;
}
