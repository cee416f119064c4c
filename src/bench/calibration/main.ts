import os from 'node:os';
import { Worker, isMainThread, parentPort, workerData } from 'node:worker_threads';
import { METRIC_NAMES, METRICS, type Metric } from '../../core/model/change';
import { runSeed, type Outcome } from './run';
import { score } from './score';

/*
 * Holds the readings against simulated sites of which the truth is known, and prints the table of docs/calibration.md.
 * Arguments: the first seed and how many.
 */

const WORLD = { pages: 60, days: 480, changes: 24, windowDays: 28, settlingDays: 7 };
const FIRST_SEED = Number(process.argv[2] ?? 7001);
const SEEDS = Number(process.argv[3] ?? 60);

type Row = { name: string; aim: string; ours: string; naive: string };

function tableOf(metric: Metric, all: readonly Outcome[]): Row[] {
  const outcomes = all.filter((o) => o.metric === metric);
  const ours = score(outcomes, (o) => o.ours);
  const naive = score(outcomes, (o) => o.naive);
  const percent = (value: number) => `${(value * 100).toFixed(1)}%`;
  const log = (value: number) => `${value < 0 ? '\u2212' : ''}${Math.abs(value).toFixed(3)}`;
  const row = (name: string, aim: string, of: (s: typeof ours) => string): Row => ({
    ...{ name, aim: metric === 'clicks' ? aim : '' },
    ours: of(ours),
    naive: of(naive),
  });
  return [
    row('90% intervals that hold the truth', '88 to 93%', (s) => percent(s.held)),
    row('untouched, picked at random, called moved', 'at most 10%', (s) => percent(s.falseAtRandom)),
    row('untouched, picked after a dip, called moved', 'at most 10%', (s) => percent(s.falseAfterDip)),
    row('real effects found', 'as high as the rest allows', (s) => percent(s.found)),
    row('real effects called the wrong way', 'under 1%', (s) => percent(s.wrongSign)),
    row('root mean square error (log)', '', (s) => log(s.error)),
    {
      name: 'the same, as a share of the naive',
      aim: metric === 'clicks' ? 'at most 0.78' : '',
      ours: (ours.error / naive.error).toFixed(3),
      naive: '1',
    },
    row('bias after a dip (log)', 'within ±0.02', (s) => log(s.dipBias)),
  ];
}

function print(outcomes: readonly Outcome[]): void {
  const changes = outcomes.length / METRICS.length;
  console.log(
    `${new Date().toISOString().slice(0, 10)}: seeds ${FIRST_SEED} to ${FIRST_SEED + SEEDS - 1}, each ${WORLD.pages} pages, ${WORLD.days} days, ${WORLD.changes} changes (${Math.round(changes).toLocaleString('en-GB')} in all), spans of ${WORLD.windowDays} days, ${WORLD.settlingDays} settling days\n`,
  );
  for (const metric of METRICS) {
    console.log(`| ${METRIC_NAMES[metric]} | aim | this program | naive |\n| --- | --- | --- | --- |`);
    for (const { name, aim, ours, naive } of tableOf(metric, outcomes))
      console.log(`| ${name} | ${aim} | ${ours} | ${naive} |`);
    console.log();
  }
}

async function main(): Promise<void> {
  const seeds = Array.from({ length: SEEDS }, (_, i) => FIRST_SEED + i);
  const workers = Math.min(SEEDS, os.cpus().length);
  const shares = Array.from({ length: workers }, (_, w) => seeds.filter((_seed, i) => i % workers === w));
  const outcomes = await Promise.all(
    shares.map(
      (share) =>
        new Promise<Outcome[]>((resolve, reject) => {
          const worker = new Worker(new URL(import.meta.url), { workerData: share });
          worker.once('message', resolve);
          worker.once('error', reject);
        }),
    ),
  );
  print(outcomes.flat());
}

if (isMainThread) await main();
else parentPort?.postMessage((workerData as number[]).flatMap((seed) => runSeed({ ...WORLD, seed })));
