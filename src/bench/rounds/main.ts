/*
 * Holds rounds against simulated sites of which the truth is known: twenty pages, a random half of which gets titles that are chosen more often. Prints how often the effect is found,
 * and how often one is found where there is none, beside the halves alone, reading all twenty against the site, and plain before and after; what was promised before the draw; and
 * what looking every day calls. Arguments: the first seed and how many; `aims` as the third runs the lines of which something is aimed at, `promises` those that have an
 * effect, which the plan should have foretold; both with nothing beside, so that many seeds can be tried. A fourth says how much appeal moves in common on the sites, 1 as usual (see `World`).
 */
import os from 'node:os';
import { Worker, isMainThread, parentPort, workerData } from 'node:worker_threads';
import { ROUND_PAGES } from './picked';
import { DAYS, runSeed, type Found, type Outcome, type Run } from './run';

const FIRST_SEED = Number(process.argv[2] ?? 21_001);
const SEEDS = Number(process.argv[3] ?? 60);

const ALL_RUNS: readonly Run[] = [
  { effect: 0, how: 'by level', beside: true, early: true },
  { effect: 0.1, how: 'by level', beside: false, early: false },
  { effect: 0.15, how: 'by level', beside: true, early: true },
  { effect: 0.2, how: 'by level', beside: false, early: false },
  { effect: 0, how: 'after a dip', beside: true, early: true },
  { effect: 0.15, how: 'after a dip', beside: true, early: false },
  { effect: 0, how: 'chosen least', beside: true, early: false },
  { effect: 0.15, how: 'chosen least', beside: true, early: false },
  { effect: 0, how: 'of one group', beside: true, early: false },
  { effect: 0.15, how: 'of one group', beside: true, early: false },
];

const CHOICES: Record<string, (run: Run) => boolean> = {
  aims: ({ effect, how }) =>
    (effect === 0 || effect === 0.15) && (how === 'by level' || how === 'after a dip'),
  promises: ({ effect }) => effect > 0,
};
const chosen = CHOICES[process.argv[4] ?? ''];
const RUNS = chosen
  ? ALL_RUNS.filter(chosen).map((run) => ({ ...run, beside: false, early: false }))
  : ALL_RUNS;
const APPEAL_MOVES = Number(process.argv[5] ?? 1);

const COLUMNS: readonly [name: string, of: (outcomes: readonly Outcome[], effect: number) => string][] = [
  ['promised by the plan', (all) => mean(all.flatMap(({ promised }) => promised ?? []))],
  ['halves and site, appeal', (all, effect) => found(all, 'appeal', effect)],
  ['its 90% range holds', (all) => held(all, 'appeal')],
  ['halves alone, appeal', (all, effect) => found(all, 'alone', effect)],
  ['its 90% range holds', (all) => held(all, 'alone')],
  ['halves and site, clicks', (all, effect) => found(all, 'clicks', effect)],
  ['all 20, appeal', (all, effect) => found(all, 'allAppeal', effect)],
  ['all 20, clicks', (all, effect) => found(all, 'allClicks', effect)],
  ['plain before/after', (all, effect) => found(all, 'naive', effect)],
];
type Reading = 'appeal' | 'alone' | 'clicks' | 'allAppeal' | 'allClicks' | 'naive';

const percent = (share: number) => `${(100 * share).toFixed(1)}%`;
const mean = (values: readonly number[]) =>
  values.length === 0 ? '' : percent(values.reduce((sum, value) => sum + value, 0) / values.length);
const share = (all: readonly Outcome[], of: Reading, test: (one: Found) => boolean) =>
  mean(all.flatMap((outcome) => (outcome[of] ? [Number(test(outcome[of]))] : [])));
const found = (all: readonly Outcome[], of: Reading, effect: number) =>
  share(all, of, (one) => one.found && (effect === 0 || one.up));
const held = (all: readonly Outcome[], of: Reading) => share(all, of, (one) => one.held);

function looksOf(outcomes: readonly Outcome[], { how, effect }: Run): string {
  const plain = outcomes.flatMap(({ early }) => early ?? []).sort((a, b) => a - b);
  const ever = outcomes.filter(({ early, appeal }) => early !== null || appeal?.found).length;
  return `looked at every day, ${how}, ${effect === 0 ? 'nothing done' : `+${effect * 100}%`}: plain before the end in ${percent(plain.length / outcomes.length)}${plain.length > 0 ? ` (in the median after ${plain[plain.length >> 1]} days)` : ''}, by the end or before in ${percent(ever / outcomes.length)}`;
}

function print(byRun: readonly (readonly Outcome[])[]): void {
  console.log(
    `Rounds of ${ROUND_PAGES} pages, seeds ${FIRST_SEED} to ${FIRST_SEED + SEEDS - 1}: ${SEEDS * DAYS.length} rounds a line; appeal moves in common ${APPEAL_MOVES} times as much as usual\n`,
  );
  console.log(`| pages picked | true effect on appeal | ${COLUMNS.map(([name]) => name).join(' | ')} |`);
  console.log(`| --- | --- ${COLUMNS.map(() => '| ---').join(' ')} |`);
  RUNS.forEach(({ how, effect }, i) => {
    const cells = COLUMNS.map(([, of]) => of(byRun[i]!, effect));
    console.log(
      `| ${how} | ${effect === 0 ? 'none: found all the same' : `+${effect * 100}%`} | ${cells.join(' | ')} |`,
    );
  });
  const looked = RUNS.flatMap((run, i) => (run.early ? [looksOf(byRun[i]!, run)] : []));
  console.log(`\n${looked.map((line) => `${line}\n`).join('')}`);
  const all = byRun.flat();
  const sorted = (values: number[]) => {
    values.sort((a, b) => a - b);
    const at = (part: number) => values[Math.floor(values.length * part)]!;
    return { median: at(0.5), low: at(0.25), high: at(0.75) };
  };
  const levels = sorted(all.flatMap((one) => one.levels));
  console.log(
    `clicks of a page in the 28 days before: median ${levels.median}, middle half ${levels.low} to ${levels.high}`,
  );
  const waiting = sorted(all.flatMap((one) => one.waiting ?? []));
  console.log(
    `the half that waits counts in the control of appeal: median ${percent(waiting.median)}, middle half ${percent(waiting.low)} to ${percent(waiting.high)}`,
  );
}

async function main(): Promise<void> {
  const threads = os.availableParallelism();
  const seeds = Array.from({ length: SEEDS }, (_, i) => FIRST_SEED + i);
  const parts = await Promise.all(
    Array.from({ length: threads }, (_, thread) =>
      inThread(seeds.filter((_seed, i) => i % threads === thread)),
    ),
  );
  print(RUNS.map((_, run) => parts.flatMap((part) => part.flatMap((site) => site[run]!))));
}

/** What a thread runs. */
type Part = {
  readonly seeds: readonly number[];
  readonly runs: readonly Run[];
  readonly appealMoves: number;
};

function inThread(seeds: readonly number[]): Promise<Outcome[][][]> {
  return new Promise((resolve, reject) => {
    const worker = new Worker(new URL(import.meta.url), {
      workerData: { seeds, runs: RUNS, appealMoves: APPEAL_MOVES } satisfies Part,
    });
    worker.once('message', resolve);
    worker.once('error', reject);
  });
}

if (isMainThread) await main();
else {
  const { seeds, runs, appealMoves } = workerData as Part;
  parentPort!.postMessage(seeds.map((seed) => runSeed(seed, runs, appealMoves)));
}
