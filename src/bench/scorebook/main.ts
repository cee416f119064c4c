/*
 * Holds the scorebook against simulated sites on which titles were rewritten with effects that scatter about a mean: how often ranges of the pooled effect hold that mean, how often
 * the next title's true effect lies in the range for it, and whether the shrunken effects of changes that were called are as large as the truth. Arguments: the first seed
 * and how many.
 */
import { randomLcg, randomNormal } from 'd3-random';
import { addDays, asDay } from '../../core/calendar/day';
import { EffectEngine } from '../../core/effect/engine';
import { movedMeasures } from '../../core/effect/movedMeasures';
import { scoredEffect, type Scored } from '../../core/scorebook/scorebookModel';
import { poolScores } from '../../core/scorebook/pool';
import { ranked } from '../../core/scorebook/ranked';
import { normalCdf, Z90 } from '../../core/statistics/normal';
import { simulateSite } from '../calibration/simulate';
import { siteOf } from '../calibration/site';
import { retitled } from '../rounds/retitled';

const FIRST_SEED = Number(process.argv[2] ?? 31_001);
const SEEDS = Number(process.argv[3] ?? 60);
const WORLD = { pages: 60, days: 480, changes: 0, windowDays: 28, settlingDays: 7 };
const HORIZON = { days: WORLD.windowDays, settlingDays: WORLD.settlingDays };
const CHANGES = 24;
const FEWEST_CLICKS = 20;
/** Mean and spread of true effects on the log scale. */
const WORLDS = [
  { mean: 0, spread: 0 },
  { mean: 0.06, spread: 0.12 },
  { mean: 0.1, spread: 0.25 },
];

type Book = {
  readonly scored: readonly Scored[];
  readonly truth: ReadonlyMap<number, number>;
};

function bookOf(seed: number, { mean, spread }: (typeof WORLDS)[number]): Book {
  const random = randomLcg(((seed * 6151 + Math.round(mean * 1000)) % 65_521) / 65_521);
  const effectOf = randomNormal.source(random)(mean, spread);
  const { pages } = simulateSite({ ...WORLD, seed });
  const treated = [...pages];
  const order = pages
    .map((_, id) => id)
    .sort((a, b) => ((a * 7919 + seed) % 101) - ((b * 7919 + seed) % 101));
  const changes = order.slice(0, CHANGES).map((page, i) => ({
    ...{ page, effect: effectOf() },
    // Several begin in one week, so that their days overlap.
    day: 150 + 35 * Math.floor(i / 3) + Math.floor(7 * random()),
  }));
  for (const { page, day, effect } of changes)
    treated[page] = retitled(treated[page]!, Math.expm1(effect), day + 3, random);
  const { history, groups } = siteOf(treated, WORLD.days);
  const touches = changes.map(({ day, page }) => ({ day, pages: [{ id: page }] }));
  const engine = new EffectEngine(history, groups, touches, asDay(WORLD.days - 1));
  const scored = changes.flatMap(({ page, day }, i): Scored[] => {
    const read = engine.compare({ ids: [page], day: asDay(day), horizon: HORIZON });
    const firstDay = addDays(asDay(day), WORLD.settlingDays);
    const after = { firstDay, lastDay: addDays(firstDay, WORLD.windowDays - 1) };
    const before = { firstDay: addDays(asDay(day), -WORLD.windowDays), lastDay: addDays(asDay(day), -1) };
    const clicks = (span: typeof after) => history.totals(history.row(page)!, span).clicks;
    if (!read || Math.min(clicks(before), clicks(after)) < FEWEST_CLICKS) return [];
    const { effects, cut } = read;
    return [
      {
        ...{ siteId: seed, changeId: i, roundId: null, title: `change ${i}`, after, pages: 1 },
        ...{ kind: 'title-rewrite', tags: [], person: null, groups: [], marks: [] },
        verdict: movedMeasures(effects, cut, 'appeal').mark ?? 'unclear',
        counted: { before: clicks(before), after: clicks(after) },
        estimates: {
          appeal: effects.appeal && scoredEffect(effects.appeal),
          clicks: effects.clicks && scoredEffect(effects.clicks),
        },
      },
    ];
  });
  return { scored, truth: new Map(changes.map(({ effect }, i) => [i, effect])) };
}

function main(): void {
  const percent = (share: number) => `${(100 * share).toFixed(1)}%`;
  console.log(
    `Sites with up to ${CHANGES} rewritten titles, seeds ${FIRST_SEED} to ${FIRST_SEED + SEEDS - 1}\n`,
  );
  console.log(
    '| mean and spread of true effects, log | pooled range holds the mean | the same, each change as if alone | range for the next holds it | read at the mean | called: share of their mean truth, shrunken | the same, raw | spread as estimated |',
  );
  console.log('| --- | --- | --- | --- | --- | --- | --- | --- |');
  for (const world of WORLDS) {
    let [held, plain, books] = [0, 0, 0];
    let [next, mean, spread] = [0, 0, 0];
    let [raw, drawn, truth] = [0, 0, 0];
    for (let seed = FIRST_SEED; seed < FIRST_SEED + SEEDS; seed++) {
      const { scored, truth: truths } = bookOf(seed, world);
      const pooled = poolScores(scored, 'appeal');
      if (!pooled || pooled.next === null) continue;
      books += 1;
      mean += pooled.net / SEEDS;
      spread += pooled.spread / SEEDS;
      if (pooled.low <= world.mean && world.mean <= pooled.high) held += 1;
      // As one would pool with a fixed effect and no thought of shared days.
      const weights = scored.map(({ estimates }) => 1 / estimates.appeal!.variance);
      const weight = weights.reduce((a, b) => a + b, 0);
      const fixed = scored.reduce((sum, one, i) => sum + weights[i]! * one.estimates.appeal!.net, 0) / weight;
      if (Math.abs(fixed - world.mean) <= Z90 / Math.sqrt(weight)) plain += 1;
      const below = (x: number) =>
        world.spread === 0 ? Number(x >= world.mean) : normalCdf((x - world.mean) / world.spread);
      next += below(pooled.next.high) - below(pooled.next.low);
      for (const one of ranked(scored)) {
        if (one.p > 0.1) continue;
        // Each counts in the direction it was called.
        const sign = Math.sign(one.raw);
        raw += sign * one.raw;
        drawn += sign * one.shrunken;
        truth += sign * truths.get(one.scored.changeId!)!;
      }
    }
    console.log(
      `| ${world.mean}, ${world.spread} | ${percent(held / books)} | ${percent(plain / books)} | ${world.spread === 0 ? '' : percent(next / books)} | ${mean.toFixed(3)} | ${world.spread === 0 ? '' : (drawn / truth).toFixed(2)} | ${world.spread === 0 ? '' : (raw / truth).toFixed(2)} | ${spread.toFixed(3)} |`,
    );
  }
}

main();
