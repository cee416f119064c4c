import os from 'node:os';
import { Worker, isMainThread, parentPort, workerData } from 'node:worker_threads';
import { MEASURE_NAMES, MEASURES, type Measure } from '../../core/measures/registry';
import { runSeed, type Outcome } from './run';
import { score, scoreVerdicts, type Score, type VerdictScore } from './score';

/*
 * Holds the readings against simulated sites of which the truth is known, and prints the tables of docs/calibration.md.
 * Arguments: the first seed and how many.
 */

const WORLD = { pages: 60, days: 480, changes: 24, windowDays: 28, settlingDays: 7 };
const FIRST_SEED = Number(process.argv[2] ?? 7001);
const SEEDS = Number(process.argv[3] ?? 60);
/** As for all aims: so many clicks in both spans. */
const FEWEST_CLICKS = 20;
/** By which look a drop by half is to be called. */
const HALF_BY = 14;

type Asked = { readonly seeds: readonly number[]; readonly halved: boolean };

const AIMS: Partial<Record<Measure, { ratio?: string; bias?: string; large?: string }>> = {
  clicks: { ratio: 'at most 0.70', bias: 'within ±0.04' },
  appeal: { bias: 'within ±0.02', large: '78% and up' },
};
const percent = (value: number) => `${(value * 100).toFixed(1)}%`;
const log = (value: number) => `${value < 0 ? '\u2212' : ''}${Math.abs(value).toFixed(3)}`;

function printMeasure(measure: Measure, outcomes: readonly Outcome[]): void {
  const ours = score(outcomes, measure, (one) => one.ours);
  const naive = score(outcomes, measure, (one) => one.naive);
  const aims = AIMS[measure] ?? {};
  const row = (name: string, aim: string, of: (s: Score) => string) =>
    console.log(`| ${name} | ${aim} | ${of(ours)} | ${of(naive)} |`);
  console.log(`| ${MEASURE_NAMES[measure]} | aim | this program | naive |\n| --- | --- | --- | --- |`);
  row('90% ranges that hold the truth', '88 to 93%', (s) => percent(s.held));
  row('untouched, picked at random, outside', '', (s) => percent(s.falseAtRandom));
  row('untouched, picked after a dip, outside', '', (s) => percent(s.falseAfterDip));
  row('real effects found', '', (s) => percent(s.found));
  row('of a fifth and more', aims.large ?? '', (s) => percent(s.foundLarge));
  row('real effects found the wrong way', 'at most 1.0%', (s) => percent(s.wrongSign));
  row('root mean square error (log)', '', (s) => log(s.error));
  row('as a share of the naive', aims.ratio ?? '', (s) => (s.error / naive.error).toFixed(3));
  row('bias after a dip (log)', aims.bias ?? '', (s) => log(s.dipBias));
  console.log();
}

function printVerdicts(outcomes: readonly Outcome[], halved: readonly Outcome[]): void {
  const verdicts = scoreVerdicts(outcomes);
  const row = (name: string, aim: string, value: (s: VerdictScore) => string) =>
    console.log(`| ${name} | ${aim} | ${value(verdicts)} |`);
  console.log('| Verdict by what moved | aim | this program |\n| --- | --- | --- |');
  row('untouched, picked at random, called moved', 'at most 10%', (s) => percent(s.falseAtRandom));
  row('untouched, picked after a dip, called moved', 'at most 10%', (s) => percent(s.falseAfterDip));
  row('effects of a fifth and more on clicks found', '65% and up', (s) => percent(s.foundLarge));
  row('of pages picked at random', '', (s) => percent(s.foundAtRandom));
  row('of pages picked after a dip', '', (s) => percent(s.foundAfterDip));
  row('real effects called the wrong way', 'at most 1.0%', (s) => percent(s.wrongSign));
  row('untouched, called on any daily look', 'at most 11%', (s) => percent(s.earlyFalse));
  row('of those found, called early', '', (s) => percent(s.earlyShare));
  row('middle day of early calls', '', (s) => String(s.earlyDay));
  const fallen = halved.filter((one) => one.kind !== 'none');
  const called = fallen.filter((one) => one.early?.way === -1 && one.early.look <= HALF_BY).length;
  row(`drops by half called within ${HALF_BY} days`, '80% and up', () => percent(called / fallen.length));
  console.log();
}

function print(outcomes: readonly Outcome[], halved: readonly Outcome[]): void {
  const number = (n: number) => n.toLocaleString('en-GB');
  const enough = outcomes.filter((one) => one.fewest >= FEWEST_CLICKS);
  console.log(
    `${new Date().toISOString().slice(0, 10)}: seeds ${FIRST_SEED} to ${FIRST_SEED + SEEDS - 1}, each ${WORLD.pages} pages, ${WORLD.days} days, ${WORLD.changes} changes; spans of ${WORLD.windowDays} days, ${WORLD.settlingDays} settling days. Of ${number(outcomes.length)} changes ${number(enough.length)} had ${FEWEST_CLICKS} clicks or more in both spans and count.\n`,
  );
  printVerdicts(
    enough,
    halved.filter((one) => one.fewest >= FEWEST_CLICKS),
  );
  for (const measure of MEASURES) printMeasure(measure, enough);
}

const run = ({ seeds, halved }: Asked): Outcome[] =>
  seeds.flatMap((seed) => runSeed({ ...WORLD, seed, halved }));

async function inThreads(halved: boolean, seeds: readonly number[]): Promise<Outcome[]> {
  const workers = Math.min(seeds.length, os.cpus().length);
  const parts = Array.from({ length: workers }, (_, w) => seeds.filter((_seed, i) => i % workers === w));
  const outcomes = await Promise.all(
    parts.map(
      (part) =>
        new Promise<Outcome[]>((resolve, reject) => {
          const asked: Asked = { seeds: part, halved };
          const worker = new Worker(new URL(import.meta.url), { workerData: asked });
          worker.once('message', resolve);
          worker.once('error', reject);
        }),
    ),
  );
  return outcomes.flat();
}

if (isMainThread) {
  const seeds = Array.from({ length: SEEDS }, (_, i) => FIRST_SEED + i);
  const outcomes = await inThreads(false, seeds);
  print(outcomes, await inThreads(true, seeds.slice(0, Math.ceil(SEEDS / 4))));
} else parentPort?.postMessage(run(workerData as Asked));
