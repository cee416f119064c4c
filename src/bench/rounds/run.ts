import { asDay } from '../../core/calendar/day';
import type { LogEffect } from '../../core/effect/effect';
import { EffectEngine, type RowEffects } from '../../core/effect/engine';
import { earlyLevel } from '../../core/rounds/early';
import { roundEffect, type RoundEffect, type RoundPage } from '../../core/rounds/effect';
import { powerOf } from '../../core/rounds/plan';
import { Draws } from '../../core/statistics/draws';
import { simulateSite } from '../calibration/simulate';
import { siteOf } from '../calibration/site';
import { drawnRound, randomOf, sumIn, type Drawn, type FittedPanel, type Pick } from './picked';
import { retitled } from './retitled';

const WORLD = { pages: 150, days: 480, changes: 0, windowDays: 28, settlingDays: 7 };
const HORIZON = { days: WORLD.windowDays, settlingDays: WORLD.settlingDays };
/** Days on which rounds begin: several on each site, far apart. */
export const DAYS = [220, 300, 380];
/** Crawls come so many days after. */
const CRAWLED_AFTER = 3;
/** Looks at which nothing could be plain are left out: no draw says so much. */
const LEAST_LEVEL = 1 / 600;

/** What is run: a true effect on pages picked in some way; whether all twenty at once are read beside, and every day is looked at. */
export type Run = {
  readonly effect: number;
  readonly how: Pick;
  readonly beside: boolean;
  readonly early: boolean;
};

/** What a reading made of a round: which way, whether its range holds the truth, and whether it calls anything. */
export type Found = { readonly up: boolean; readonly held: boolean; readonly found: boolean };

/** What one round came to. */
export type Outcome = {
  /** Against the half that waits and the site, and against the half alone. */
  readonly appeal: Found | null;
  readonly clicks: Found | null;
  readonly alone: Found | null;
  /** All twenty at once, against the site; and plain before and after. */
  readonly allAppeal: Found | null;
  readonly allClicks: Found | null;
  readonly naive: Found | null;
  readonly promised: number | null;
  /** The first look before the end at which it was plain; null where none was or nobody looked. */
  readonly early: number | null;
  readonly levels: readonly number[];
  /** How much the half that waits counts in the control of appeal. */
  readonly waiting: number | null;
};

/** The outcomes of all runs on one site, run by run; `appealMoves` as of `World`. */
export function runSeed(seed: number, runs: readonly Run[], appealMoves: number): Outcome[][] {
  const { pages } = simulateSite({ ...WORLD, seed, appealMoves });
  const ground: FittedPanel = { pages, history: siteOf(pages, WORLD.days).history, seed };
  return runs.map((run) => roundsOf(ground, run));
}

type Site = { readonly pages: FittedPanel['pages']; readonly engine: EffectEngine };

function roundsOf(ground: FittedPanel, run: Run): Outcome[] {
  const random = randomOf(ground.seed, run.effect);
  const rounds = DAYS.map((day) => drawnRound(ground, day, run.how));
  const siteWith = (changed: (round: Drawn) => readonly number[]): Site => {
    const pages = [...ground.pages];
    for (const round of rounds)
      for (const id of changed(round))
        pages[id] = retitled(pages[id]!, run.effect, round.day + CRAWLED_AFTER, random);
    const { history, groups } = siteOf(pages, WORLD.days);
    const touches = rounds.map((round) => ({ day: round.day, pages: changed(round).map((id) => ({ id })) }));
    return { pages, engine: new EffectEngine(history, groups, touches, asDay(WORLD.days - 1)) };
  };
  const halves = siteWith(({ first }) => [...first]);
  const all = run.beside ? siteWith(({ ids }) => ids) : null;
  const truth = Math.log1p(run.effect);
  return rounds.map((round) => ({
    ...readHalves(halves.engine, round, run, truth),
    ...(all ? readAll(all, round, truth) : { allAppeal: null, allClicks: null, naive: null }),
    levels: round.levels,
  }));
}

function readHalves(engine: EffectEngine, round: Drawn, run: Run, truth: number) {
  const { ids, day, seed, first } = round;
  const asked = { ids, day: asDay(day), horizon: HORIZON };
  const rows = engine.look(asked, HORIZON.days);
  const missed = engine.commonVariances(asked, rows, ['appeal', 'clicks']);
  const pages = pagesOf(rows, round);
  const draws = new Draws(seed);
  const appeal = roundEffect(pages, 'appeal', draws, missed.appeal);
  const levelOf = (look: number) => earlyLevel(look, HORIZON.days);
  const looks = run.early ? Array.from({ length: HORIZON.days - 1 }, (_, i) => i + 1) : [];
  const plain = looks.find((look) => {
    if (levelOf(look) < LEAST_LEVEL) return false;
    const one = roundEffect(pagesOf(engine.look(asked, look), round), 'appeal', draws, missed.appeal);
    return one !== null && one.p <= levelOf(look);
  });
  return {
    appeal: drawnFound(appeal, truth),
    clicks: drawnFound(roundEffect(pages, 'clicks', draws, missed.clicks), truth),
    alone: drawnFound(roundEffect(pages, 'appeal', draws), truth),
    promised: run.effect > 0 ? promisedOf(engine, round, run.effect, first.size) : null,
    early: plain ?? null,
    waiting: appeal && appeal.waiting,
  };
}

/** What a plan made just before the round would have promised. */
function promisedOf(engine: EffectEngine, { ids, day }: Drawn, effect: number, perHalf: number): number {
  const variances = engine.foreseenVariances('appeal', asDay(day), ids, HORIZON).filter((one) => one > 0);
  const last = { ids, day: asDay(day - HORIZON.days - HORIZON.settlingDays), horizon: HORIZON };
  const { appeal } = engine.commonVariances(last, engine.look(last, HORIZON.days), ['appeal']);
  return powerOf(effect, perHalf, variances, appeal);
}

function readAll({ pages, engine }: Site, { ids, day }: Drawn, truth: number) {
  const { effects } = engine.compare({ ids, day: asDay(day), horizon: HORIZON })!;
  const found = (effect: LogEffect | null) =>
    effect && judged(effect, truth, effect.low > 0 || effect.high < 0);
  const [before, after] = [day - HORIZON.days, day + HORIZON.settlingDays].map((from) =>
    ids.reduce((sum, id) => sum + sumIn(pages[id]!.clicks, from, HORIZON.days), 0),
  ) as [number, number];
  const net = Math.log(after / before);
  const half = 1.645 * Math.sqrt(1 / before + 1 / after);
  return {
    allAppeal: found(effects.appeal),
    allClicks: found(effects.clicks),
    naive: found({ net, low: net - half, high: net + half }),
  };
}

const pagesOf = (rows: readonly RowEffects[], { blockOf, first }: Drawn) =>
  rows.map(({ id, effects }): RoundPage => ({
    ...{ pageId: id, effects, block: blockOf.get(id)!, first: first.has(id) },
  }));

const drawnFound = (one: RoundEffect | null, truth: number) => one && judged(one, truth, one.p <= 0.1);

const judged = ({ net, low, high }: LogEffect, truth: number, found: boolean): Found => ({
  ...{ up: net > 0, held: low <= truth && truth <= high, found },
});
