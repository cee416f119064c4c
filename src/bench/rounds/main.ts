/*
 * Holds rounds against simulated sites of which the truth is known: twenty pages, a random half of which gets titles that are chosen more often. Prints how often the effect is found,
 * and how often one is found where there is none, beside reading all twenty against the site, and beside plain before and after; what was promised before the draw; and what
 * looking every day calls. Arguments: the first seed and how many.
 */
import { randomLcg } from 'd3-random';
import { asDay } from '../../core/calendar/day';
import type { LogEffect } from '../../core/effect/effect';
import { EffectEngine, type RowEffects } from '../../core/effect/engine';
import type { Measure } from '../../core/model/change';
import { drawnHalves } from '../../core/rounds/draw';
import { earlyLevel } from '../../core/rounds/early';
import { roundEffect, type RoundPage } from '../../core/rounds/effect';
import { likeBlocks } from '../../core/rounds/blocks';
import { powerOf } from '../../core/rounds/plan';
import { simulateSite, type SimulatedSite } from '../calibration/simulate';
import { siteOf } from '../calibration/site';
import { retitled } from './retitled';

const FIRST_SEED = Number(process.argv[2] ?? 21_001);
const SEEDS = Number(process.argv[3] ?? 60);
const WORLD = { pages: 100, days: 480, changes: 0, windowDays: 28, settlingDays: 7 };
const [ROUND_PAGES, TYPICAL_CLICKS] = [20, 124];
const HORIZON = { days: WORLD.windowDays, settlingDays: WORLD.settlingDays };
/** Days on which rounds begin: several on each site, far apart. */
const DAYS = [220, 300, 380];
/** What is run: true effects by how pages were picked, and whether all twenty at once are read beside. */
const RUNS = [
  { effect: 0, afterDip: false, beside: true, early: true },
  { effect: 0.1, afterDip: false, beside: false, early: false },
  { effect: 0.15, afterDip: false, beside: true, early: true },
  { effect: 0.2, afterDip: false, beside: false, early: false },
  { effect: 0, afterDip: true, beside: true, early: true },
  { effect: 0.15, afterDip: true, beside: true, early: false },
];
type Run = (typeof RUNS)[number];

type Page = SimulatedSite['pages'][number];

const sumIn = (values: Float64Array, from: number, days: number) =>
  values.subarray(from, from + days).reduce((sum, value) => sum + value, 0);

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

type Drawn = {
  readonly day: number;
  readonly ids: readonly number[];
  readonly first: ReadonlySet<number>;
  readonly blockOf: ReadonlyMap<number, number>;
  readonly seed: number;
};

function drawn(pages: readonly Page[], day: number, afterDip: boolean, seed: number): Drawn {
  const ids = picked(pages, day, afterDip);
  const level = (id: number) => sumIn(pages[id]!.clicks, day - 56, 56);
  const blocks = likeBlocks(
    ids.map((pageId) => ({
      ...{ pageId, clicks: level(pageId), group: pages[pageId]!.path },
      dip: Math.log((sumIn(pages[pageId]!.clicks, day - 14, 14) * 4 + 1) / (level(pageId) + 1)),
    })),
  );
  const first = new Set(drawnHalves(blocks, seed).first);
  const blockOf = new Map(blocks.flatMap((block, i) => block.map((id) => [id, i] as const)));
  return { day, ids, first, blockOf, seed };
}

type Found = { readonly up: boolean; readonly held: boolean; readonly found: boolean };
type Tally = {
  appeal: Found[];
  clicks: Found[];
  allAppeal: Found[];
  allClicks: Found[];
  naive: Found[];
  promised: number[];
  early: (number | null)[];
  levels: number[];
};

const judged = ({ net, low, high }: LogEffect, truth: number, found = low > 0 || high < 0): Found => ({
  ...{ up: net > 0, held: low <= truth && truth <= high, found },
});

function roundsOf(seed: number, { effect, afterDip, beside, early }: Run, tally: Tally): void {
  const { pages } = simulateSite({ ...WORLD, seed });
  const random = randomLcg(((seed * 7919 + Math.round(effect * 100)) % 65_521) / 65_521);
  const truth = Math.log1p(effect);
  const rounds = DAYS.map((day) => drawn(pages, day, afterDip, seed * 31 + day));
  const site = (changed: (round: Drawn) => readonly number[]) => {
    const treated = [...pages];
    for (const round of rounds)
      for (const id of changed(round)) treated[id] = retitled(treated[id]!, effect, round.day + 3, random);
    const { history, groups } = siteOf(treated, WORLD.days);
    const touches = rounds.map((round) => ({ day: round.day, pages: changed(round).map((id) => ({ id })) }));
    return { treated, engine: new EffectEngine(history, groups, touches, asDay(WORLD.days - 1)) };
  };
  const halves = site(({ first }) => [...first]);
  const all = beside ? site(({ ids }) => ids) : null;
  for (const round of rounds) {
    const { ids, day } = round;
    const asked = { ids, day: asDay(day), horizon: HORIZON };
    const rowsOf = (effects: readonly RowEffects[]) =>
      effects.map(({ id, effects }): RoundPage => ({
        ...{ pageId: id, effects, block: round.blockOf.get(id)!, first: round.first.has(id) },
      }));
    tally.levels.push(...ids.map((id) => sumIn(pages[id]!.clicks, day - WORLD.windowDays, WORLD.windowDays)));
    if (effect > 0) {
      const variances = halves.engine
        .foreseenVariances('appeal', asDay(day), ids, HORIZON)
        .filter((one) => one > 0);
      tally.promised.push(powerOf(effect, round.first.size, variances));
    }
    const rows = rowsOf(halves.engine.look(asked, HORIZON.days));
    for (const measure of ['appeal', 'clicks'] as const) {
      const one = roundEffect(rows, measure, round.seed);
      if (one) tally[measure].push(judged(one, truth, one.p <= 0.1));
    }
    if (early) {
      const days = Array.from({ length: HORIZON.days - 1 }, (_, i) => i + 1);
      const plain = days.find((look) => {
        if (earlyLevel(look, HORIZON.days) < 1 / 600) return false;
        const one = roundEffect(rowsOf(halves.engine.look(asked, look)), 'appeal', round.seed);
        return one !== null && one.p <= earlyLevel(look, HORIZON.days);
      });
      tally.early.push(plain ?? null);
    }
    if (!all) continue;
    const compared = all.engine.compare(asked);
    for (const [name, measure] of [
      ['allAppeal', 'appeal'],
      ['allClicks', 'clicks'],
    ] as ['allAppeal' | 'allClicks', Measure][]) {
      const one = compared?.effects[measure];
      if (one) tally[name].push(judged(one, truth));
    }
    const [before, after] = [day - WORLD.windowDays, day + WORLD.settlingDays].map((from) =>
      ids.reduce((sum, id) => sum + sumIn(all.treated[id]!.clicks, from, WORLD.windowDays), 0),
    ) as [number, number];
    const net = Math.log(after / before);
    const half = 1.645 * Math.sqrt(1 / before + 1 / after);
    tally.naive.push(judged({ net, low: net - half, high: net + half }, truth));
  }
}

function main(): void {
  const percent = (share: number) => `${(100 * share).toFixed(1)}%`;
  const share = (list: readonly Found[], test: (one: Found) => boolean) =>
    list.length === 0 ? '' : percent(list.filter(test).length / list.length);
  const levels: number[] = [];
  const looks: string[] = [];
  console.log(
    `Rounds of ${ROUND_PAGES} pages, seeds ${FIRST_SEED} to ${FIRST_SEED + SEEDS - 1}: ${SEEDS * DAYS.length} rounds a line\n`,
  );
  console.log(
    '| pages picked | true effect on appeal | promised by the plan | halves, appeal | its 90% range holds | halves, clicks | all 20, appeal | all 20, clicks | plain before/after |',
  );
  console.log('| --- | --- | --- | --- | --- | --- | --- | --- | --- |');
  for (const run of RUNS) {
    const { effect, afterDip } = run;
    const tally: Tally = {
      ...{ appeal: [], clicks: [], allAppeal: [], allClicks: [], naive: [] },
      ...{ promised: [], early: [], levels: [] },
    };
    for (let seed = FIRST_SEED; seed < FIRST_SEED + SEEDS; seed++) roundsOf(seed, run, tally);
    levels.push(...tally.levels);
    const found = (list: readonly Found[]) => share(list, (one) => one.found && (effect === 0 || one.up));
    const promised = tally.promised.reduce((sum, power) => sum + power, 0) / tally.promised.length;
    console.log(
      `| ${afterDip ? 'after a dip' : 'by level'} | ${effect === 0 ? 'none: found all the same' : `+${effect * 100}%`} | ${effect === 0 ? '' : percent(promised)} | ${found(tally.appeal)} | ${share(tally.appeal, (one) => one.held)} | ${found(tally.clicks)} | ${found(tally.allAppeal)} | ${found(tally.allClicks)} | ${found(tally.naive)} |`,
    );
    if (run.early) {
      const plain = tally.early.filter((look) => look !== null).sort((a, b) => a - b);
      const ever = tally.early.filter((look, i) => look !== null || tally.appeal[i]?.found).length;
      looks.push(
        `looked at every day, ${afterDip ? 'after a dip' : 'by level'}, ${effect === 0 ? 'nothing done' : `+${effect * 100}%`}: plain before the end in ${percent(plain.length / tally.early.length)}${plain.length > 0 ? ` (in the median after ${plain[plain.length >> 1]} days)` : ''}, by the end or before in ${percent(ever / tally.early.length)}`,
      );
    }
  }
  console.log(`\n${looks.join('\n')}`);
  levels.sort((a, b) => a - b);
  const at = (part: number) => levels[Math.floor(levels.length * part)];
  console.log(
    `clicks of a page in the 28 days before: median ${at(0.5)}, middle half ${at(0.25)} to ${at(0.75)}`,
  );
}

main();
