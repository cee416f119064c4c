/*
 * Holds rounds against simulated sites of which the truth is known: twenty pages, a random half of which gets titles that are chosen more often. Prints how often the effect is found,
 * and how often one is found where there is none, beside reading all twenty against the site, and beside plain before and after.
 * Arguments: the first seed and how many.
 */
import { randomLcg, randomPoisson } from 'd3-random';
import { asDay } from '../../core/calendar/day';
import { EffectEngine } from '../../core/effect/engine';
import type { Measure } from '../../core/model/change';
import { drawnHalves } from '../../core/rounds/draw';
import { roundEffect, type RoundPage } from '../../core/rounds/effect';
import { pairedLike } from '../../core/rounds/pairs';
import { simulateSite, type SimulatedSite } from '../calibration/simulate';
import { siteOf } from '../calibration/site';

const FIRST_SEED = Number(process.argv[2] ?? 21_001);
const SEEDS = Number(process.argv[3] ?? 60);
const WORLD = { pages: 60, days: 480, changes: 0, windowDays: 28, settlingDays: 7 };
const [ROUND_PAGES, TYPICAL_CLICKS] = [20, 124];
const HORIZON = { days: WORLD.windowDays, settlingDays: WORLD.settlingDays };
const EFFECTS = [0, 0.1, 0.15, 0.2];
/** Days on which rounds begin: several on each site, far apart. */
const DAYS = [220, 300, 380];

type Page = SimulatedSite['pages'][number];

const sumIn = (values: Float64Array, from: number, days: number) =>
  values.subarray(from, from + days).reduce((sum, value) => sum + value, 0);

/** The page with a title that is chosen more often from a day on: every search of it brings so many clicks more. */
function lifted(page: Page, effect: number, day: number, poisson: (mean: number) => () => number): Page {
  const clicks = page.clicks.slice();
  const queries = page.queries.map((query) => ({ ...query, clicks: query.clicks.slice() }));
  for (let at = day; at < clicks.length; at++) {
    let named = 0;
    for (const query of queries) {
      const own = query.clicks[at]!;
      named += own;
      const more = own > 0 ? poisson(effect * own)() : 0;
      query.clicks[at]! += more;
      clicks[at]! += more;
    }
    const rest = page.clicks[at]! - named;
    if (rest > 0) clicks[at]! += poisson(effect * rest)();
  }
  return { ...page, clicks, queries };
}

/** The twenty pages whose level is nearest to the typical one; those that have just dipped first, where they are picked so. */
function picked(pages: readonly Page[], day: number, afterDip: boolean): number[] {
  const level = (page: Page) => sumIn(page.clicks, day - WORLD.windowDays, WORLD.windowDays);
  const apart = (page: Page) => Math.abs(Math.log((level(page) + 1) / TYPICAL_CLICKS));
  const near = pages.map((page, id) => ({ page, id })).sort((a, b) => apart(a.page) - apart(b.page));
  const some = near.slice(0, afterDip ? 2 * ROUND_PAGES : ROUND_PAGES);
  const dip = (page: Page) =>
    level(page) / WORLD.windowDays / (sumIn(page.clicks, day - 140, 112) / 112 + 0.01);
  if (afterDip) some.sort((a, b) => dip(a.page) - dip(b.page));
  return some.slice(0, ROUND_PAGES).map(({ id }) => id);
}

type Found = { readonly up: boolean; readonly held: boolean; readonly found: boolean };
type Tally = Record<'appeal' | 'clicks' | 'allAppeal' | 'allClicks' | 'naive', Found[]>;

function roundsOf(seed: number, effect: number, afterDip: boolean): { tally: Tally; clicks: number[] } {
  const { pages } = simulateSite({ ...WORLD, seed });
  const poisson = randomPoisson.source(
    randomLcg(((seed * 7919 + Math.round(effect * 100)) % 65_521) / 65_521),
  );
  const tally: Tally = { appeal: [], clicks: [], allAppeal: [], allClicks: [], naive: [] };
  const levels: number[] = [];
  const truth = Math.log1p(effect);
  for (const day of DAYS) {
    const ids = picked(pages, day, afterDip);
    for (const id of ids) levels.push(sumIn(pages[id]!.clicks, day - WORLD.windowDays, WORLD.windowDays));
    const level = (id: number) => sumIn(pages[id]!.clicks, day - 56, 56);
    const blocks = pairedLike(
      ids.map((pageId) => ({
        pageId,
        clicks: level(pageId),
        group: pages[pageId]!.path,
        dip: Math.log((sumIn(pages[pageId]!.clicks, day - 14, 14) * 4 + 1) / (level(pageId) + 1)),
      })),
    );
    const { first } = drawnHalves(blocks, seed * 31 + day);
    const goes = new Set(first);
    const read = (changed: ReadonlySet<number>) => {
      const treated = pages.map((page, id) =>
        changed.has(id) ? lifted(page, effect, day + 3, poisson) : page,
      );
      const { history, groups } = siteOf(treated, WORLD.days);
      const touches = [{ day, pages: ids.map((id) => ({ id })) }];
      const engine = new EffectEngine(history, groups, touches, asDay(WORLD.days - 1));
      return { treated, compared: engine.compare({ ids, day: asDay(day), horizon: HORIZON }) };
    };
    const halves = read(goes).compared;
    const blockOf = new Map(blocks.flatMap((block, i) => block.map((id) => [id, i] as const)));
    const rows = (halves?.rows ?? []).map(({ id, effects }): RoundPage => ({
      ...{ pageId: id, effects, block: blockOf.get(id)!, first: goes.has(id) },
    }));
    for (const measure of ['appeal', 'clicks'] as const) {
      const one = roundEffect(rows, measure, seed * 31 + day);
      if (one)
        tally[measure].push({
          up: one.net > 0,
          held: one.low <= truth && truth <= one.high,
          found: one.p <= 0.1,
        });
    }
    // All twenty at once, read against the site, and plainly.
    const all = read(new Set(ids));
    for (const [name, measure] of [
      ['allAppeal', 'appeal'],
      ['allClicks', 'clicks'],
    ] as [keyof Tally, Measure][]) {
      const one = all.compared?.effects[measure];
      if (one)
        tally[name].push({
          up: one.net > 0,
          held: one.low <= truth && truth <= one.high,
          found: one.low > 0 || one.high < 0,
        });
    }
    const sides = [day - WORLD.windowDays, day + WORLD.settlingDays].map((from) =>
      ids.reduce((sum, id) => sum + sumIn(all.treated[id]!.clicks, from, WORLD.windowDays), 0),
    );
    const net = Math.log(sides[1]! / sides[0]!);
    const half = 1.645 * Math.sqrt(1 / sides[0]! + 1 / sides[1]!);
    tally.naive.push({ up: net > 0, held: Math.abs(net - truth) <= half, found: Math.abs(net) > half });
  }
  return { tally, clicks: levels };
}

function main(): void {
  const share = (list: readonly Found[], test: (one: Found) => boolean) =>
    `${((100 * list.filter(test).length) / Math.max(1, list.length)).toFixed(1)}%`;
  const levels: number[] = [];
  for (const afterDip of [false, true]) {
    console.log(
      `\n${afterDip ? 'Pages picked because they had just dipped' : 'Pages picked by their level'}; seeds ${FIRST_SEED} to ${FIRST_SEED + SEEDS - 1}, ${SEEDS * DAYS.length} rounds of ${ROUND_PAGES} pages\n`,
    );
    console.log(
      '| true effect on appeal | halves, appeal | its 90% range holds | halves, clicks | all 20, appeal | all 20, clicks | plain before/after |',
    );
    console.log('| --- | --- | --- | --- | --- | --- | --- |');
    for (const effect of EFFECTS) {
      const all: Tally = { appeal: [], clicks: [], allAppeal: [], allClicks: [], naive: [] };
      for (let seed = FIRST_SEED; seed < FIRST_SEED + SEEDS; seed++) {
        const { tally, clicks } = roundsOf(seed, effect, afterDip);
        for (const name of Object.keys(all) as (keyof Tally)[]) all[name].push(...tally[name]);
        levels.push(...clicks);
      }
      const found = (list: readonly Found[]) => share(list, (one) => one.found && (effect === 0 || one.up));
      console.log(
        `| ${effect === 0 ? 'none: found all the same' : `+${effect * 100}%`} | ${found(all.appeal)} | ${share(all.appeal, (one) => one.held)} | ${found(all.clicks)} | ${found(all.allAppeal)} | ${found(all.allClicks)} | ${found(all.naive)} |`,
      );
    }
  }
  levels.sort((a, b) => a - b);
  console.log(
    `\nclicks of a page in the 28 days before: median ${levels[Math.floor(levels.length / 2)]}, middle half ${levels[Math.floor(levels.length / 4)]} to ${levels[Math.floor((3 * levels.length) / 4)]}`,
  );
}

main();
