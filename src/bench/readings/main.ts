import path from 'node:path';
import { asDay } from '../../core/calendar/day';
import { History, type Series } from '../../core/history/history';
import { pageGroups } from '../../core/effect/groups';
import { controlSample } from '../../core/effect/panel';
import { EffectEngine } from '../../core/effect/engine';
import { listChanges } from '../../store/ledger/findChanges';
import { bringForward, connect } from '../../store/database';
import { listPages } from '../../store/addresses/pages';
import { Engines } from '../../services/site/engines';
import { readChanges } from '../../services/reading/readChanges';
import { SiteContext } from '../../services/site/siteContext';
import { siteSeries } from '../../store/figures/series';
import { makeFullSite } from './fullSite';
import { addSnapshots } from './snapshots';

/*
 * Makes a site of full size in the folder given as the first argument and measures what readings of it take in this
 * process; the server over the same data is measured by the script that starts this.
 */

const SIZE = {
  pages: 2000,
  days: 480,
  changes: 500,
  queriesAPage: 50,
  rowsAQuery: Number(process.argv[3] ?? 150),
};
const RUNS = 7;

const db = connect(path.join(process.argv[2]!, 'tally.sqlite'));
bringForward(db);
const site = await makeFullSite(db, SIZE);
await addSnapshots(db, site);
const rows = db.$client
  .prepare<[], { n: number }>('SELECT sum(rows) AS n FROM figures WHERE grain = 3')
  .get()!.n;
console.log(
  `site: ${SIZE.pages.toLocaleString('en-GB')} pages, ${SIZE.days} days, ${SIZE.changes} changes, ${rows.toLocaleString('en-GB')} rows by query`,
);

function timed<T>(run: () => T): { first: number; median: number; result: T } {
  const times: number[] = [];
  let result!: T;
  for (let i = 0; i < RUNS; i++) {
    const start = performance.now();
    result = run();
    times.push(performance.now() - start);
  }
  const sorted = [...times].sort((a, b) => a - b);
  return { first: times[0]!, median: sorted[Math.floor(RUNS / 2)]!, result };
}

const changes = listChanges(db, site.id);
const addresses = new Map(listPages(db, site.id).map((page) => [page.id, page.address]));
const loading = timed(() => {
  const series = siteSeries(db, site.id);
  const first = Math.min(...series.map((one) => one.firstDay));
  const covered = Array.from({ length: SIZE.days }, (_, i) => asDay(first + i));
  return { series, covered, whole: new History(asDay(first), SIZE.days, series, covered) };
});
const { series, covered, whole } = loading.result;

const summing = timed(() => {
  let total = 0;
  for (const sums of Object.values(whole.sums)) for (let i = 0; i < sums.length; i++) total += sums[i]!;
  return total;
});

function panelHistory(all: readonly Series[]) {
  const groupOf = pageGroups(all.map((one) => addresses.get(one.id)!)).of;
  const numbers = new Map(all.map(({ id }, i) => [id, groupOf[i]!]));
  const sample = controlSample(all, (id) => numbers.get(id)!);
  const changed = new Set(changes.flatMap((change) => change.pages.map((page) => page.id)));
  const rows = all.filter(({ id }) => sample.has(id) || changed.has(id));
  return {
    control: Uint8Array.from(rows, ({ id }) => (sample.has(id) ? 1 : 0)),
    groups: pageGroups(rows.map((one) => addresses.get(one.id)!)),
    history: new History(whole.firstDay, SIZE.days, rows, covered),
  };
}
const { control, groups, history } = panelHistory(series);
const HORIZON = { days: 28, settlingDays: 7 };
const engines: EffectEngine[] = [];
const learning = timed(() => {
  const engine = new EffectEngine(history, groups, changes, whole.lastDay, { control });
  engine.learn(HORIZON);
  engines.push(engine);
});
const readAll = (engine: EffectEngine) =>
  changes.filter((change) =>
    engine.compare({ ids: change.pages.map((page) => page.id), day: change.day, horizon: HORIZON }),
  ).length;
// Each time an engine that has learned and read nothing yet: the control of each day is made on the way.
const known = engines[0]!;
const reading = timed(() => readAll(engines.shift()!));
// And one that knows the controls of the days of all changes, as they are kept until figures or changes do.
const again = timed(() => readAll(known));
const all = timed(() => readChanges(new SiteContext(db, site), new Engines(db)).length);

const line = (name: string, { first, median }: { first: number; median: number }) =>
  console.log(
    `${name.padEnd(44)} first ${first.toFixed(0)} ms, median ${median.toFixed(0)} ms, ratio ${(median / summing.median).toFixed(1)}`,
  );
line('plainly summing the same arrays once', summing);
line('loading the history from SQLite', loading);
line('learning from placebo windows', learning);
line(`reading ${reading.result} changes, and their controls`, reading);
line('the same, controls known', again);
line('all readings with loading, texts and doubts', all);
db.$client.close();
