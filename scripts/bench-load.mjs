// Fifty people who read and five who log, all signed in, on a site of full size, while a million rows come in. Prints how long
// answers took by what was asked, and how many were faults. It is the second day after the last one with figures; of five
// changes that are logged four were made on that day, and one was forgotten three weeks before.
// With --hard nobody makes a pause, and lists are of days that nobody has asked for before.
import { spawnSync } from 'node:child_process';
import { createWriteStream, mkdtempSync, openAsBlob, rmSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import { withServer } from './bench-server.mjs';
import { bundled } from './bundle.mjs';
import { ready } from './ready.mjs';
import { root } from './stamp.mjs';

const [
  readers = 50,
  loggers = 5,
  rows = 1_000_000,
  rowsAQuery = 150,
  leastSeconds = 120,
  pagesOfSite = 2000,
  changesOfSite = 500,
] = process.argv
  .slice(2)
  .filter((one) => !one.startsWith('--'))
  .map(Number);
/** Readers that make no pause, and ask for days that nobody has asked for before. */
const hard = process.argv.includes('--hard');
/** A reader looks at a screen for so long before the next one, and who logs takes so long for a change. */
const LOOKS_MS = hard ? [0, 0] : [4000, 12_000];
const LOGS_MS = [8000, 20_000];
/** Of so many changes one is written down late, by so many days. */
const [LATE_ONE_IN, LATE_BY] = [5, 21];
/** The day on which it all happens: the site's last figures are two days old. */
process.env.TALLY_TODAY = '2026-01-28';
const PORT = '3417';
const home = `http://127.0.0.1:${PORT}`;

await ready();
process.chdir(root);
const dir = mkdtempSync(path.join(os.tmpdir(), 'tally-bench-'));
const outfile = await bundled('load/main.ts');
const between = ([least, most]) => least + Math.random() * (most - least);
const one = (list) => list[Math.floor(Math.random() * list.length)];

const daysBefore = (days) =>
  new Date(Date.parse(process.env.TALLY_TODAY) - days * 86_400_000).toISOString().slice(0, 10);

/** Days of a list, other ones each time: four weeks up to some day of the last year. */
function freshDays() {
  const last = 3 + Math.floor(Math.random() * 360);
  return `?from=${daysBefore(last + 14 + Math.floor(Math.random() * 28))}&to=${daysBefore(last)}`;
}

/** A file of daily rows by page and query, of the last weeks. */
async function makeFile(file, { pages, lastDay }) {
  const out = createWriteStream(file);
  const days = 28;
  const queries = Math.ceil(rows / (days * pages.length));
  out.write('date,page,query,clicks,impressions,position\n');
  let left = rows;
  for (let day = days - 1; day >= 0; day--) {
    const date = new Date(Date.parse(lastDay) - day * 86_400_000).toISOString().slice(0, 10);
    for (const { address } of pages) {
      let text = '';
      for (let q = 0; q < queries && left > 0; q++, left--)
        text += `${date},${address},load ${q} words,${q % 4},${20 + q},${5 + (q % 30)}.5\n`;
      if (text !== '' && !out.write(text)) await new Promise((resolve) => out.once('drain', resolve));
    }
  }
  await new Promise((resolve) => out.end(resolve));
}

/** What readers open, in the proportions in which people do; the name is what is printed. */
const SCREENS = [
  ...[
    ['desk', () => '/sites/1/desk'],
    ['desk', () => '/sites/1/desk'],
  ],
  ...[
    ['ledger', () => '/sites/1/ledger'],
    ['reading', ({ change }) => `/sites/1/ledger/${change}`],
    ['reading', ({ change }) => `/sites/1/ledger/${change}`],
  ],
  ...[
    ['openings', () => '/sites/1/openings'],
    ['list of pages', ({ days }) => `/sites/1/pages${days}`],
    ['list of queries', ({ days }) => `/sites/1/queries${days}`],
  ],
  ...[
    ['page', ({ page }) => `/sites/1/pages/${page}`],
    ['almanac', () => '/sites/1/almanac'],
    ['scorebook', () => '/sites/1/scorebook'],
  ],
  ['readings, for scripts', () => '/api/v1/sites/1/changes'],
];

try {
  const { model } = os.cpus()[0];
  console.log(
    `${new Date().toISOString().slice(0, 10)}, ${os.cpus().length} cores (${model.trim()}), Node.js ${process.versions.node}`,
  );
  const made = spawnSync(
    process.execPath,
    [
      outfile,
      dir,
      String(readers + loggers + 1),
      String(rowsAQuery),
      String(pagesOfSite),
      String(changesOfSite),
    ],
    {
      ...{ stdio: ['ignore', 'pipe', 'inherit'], encoding: 'utf8', maxBuffer: 64 * 1024 * 1024 },
    },
  );
  if (made.status !== 0) process.exit(made.status ?? 1);
  const told = JSON.parse(made.stdout.trim().split('\n').at(-1));
  const file = path.join(dir, 'million.csv');
  await makeFile(file, told);
  if (hard) console.log('without pauses, lists of days not asked for before');
  console.log(
    `site: ${told.pages.length.toLocaleString('en-GB')} pages, ${told.rows.toLocaleString('en-GB')} rows by query; ${readers} read, ${loggers} log`,
  );

  await withServer(dir, PORT, async () => {
    const taken = [];
    let going = true;
    const asking = async (name, url, cookie, init = {}) => {
      const start = performance.now();
      const answer = await fetch(home + url, {
        ...init,
        redirect: 'manual',
        headers: { cookie, ...init.headers },
      }).catch(() => null);
      const text = answer ? await answer.text() : '';
      taken.push({ name, took: performance.now() - start, status: answer?.status ?? 0 });
      return answer?.ok ? text : null;
    };
    const changes = JSON.parse(await asking('warm', '/api/v1/sites/1/changes', told.cookies[0]));
    // The server has been running for a while: each screen was opened once by somebody.
    const any = () => ({ change: one(changes).id, page: one(told.pages).id, days: hard ? freshDays() : '' });
    for (const [, url] of SCREENS) await asking('warm', url(any()), told.cookies[0]);
    taken.length = 0;
    const read = async (cookie) => {
      await sleep(between([0, LOOKS_MS[1]]));
      while (going) {
        const [name, url] = one(SCREENS);
        await asking(name, url(any()), cookie);
        await sleep(between(LOOKS_MS));
      }
    };
    const log = async (cookie) => {
      await sleep(between([0, LOGS_MS[1]]));
      for (let n = 0; going; n++) {
        const change = {
          title: `Logged under load ${n}`,
          kind: 'title-rewrite',
          day: n % LATE_ONE_IN === LATE_ONE_IN - 1 ? daysBefore(LATE_BY) : daysBefore(0),
          pages: [one(told.pages).address],
        };
        const init = {
          method: 'POST',
          body: JSON.stringify(change),
          headers: { 'Content-Type': 'application/json' },
        };
        await asking('logging a change', '/api/v1/sites/1/changes', cookie, init);
        await sleep(between(LOGS_MS));
      }
    };
    const [cookie, ...others] = told.cookies;
    const everybody = [...others.slice(0, readers).map(read), ...others.slice(readers).map(log)];
    await sleep(15_000);
    const began = performance.now();
    const sent = await fetch(`${home}/api/v1/sites/1/imports?fileName=million.csv`, {
      ...{ method: 'POST', body: await openAsBlob(file), headers: { cookie, 'Content-Type': 'text/csv' } },
    });
    const { id } = await sent.json();
    let state = '';
    while (!['done', 'failed'].includes(state)) {
      await sleep(500);
      state = (await (await fetch(`${home}/api/v1/imports/${id}`, { headers: { cookie } })).json()).state;
    }
    const importing = (performance.now() - began) / 1000;
    console.log(
      `${rows.toLocaleString('en-GB')} rows came in meanwhile: ${state}, ${importing.toFixed(1)} s`,
    );
    await sleep(Math.max(0, leastSeconds * 1000 - (performance.now() - began)));
    going = false;
    await Promise.all(everybody);
    const at = (list, share) => list[Math.min(list.length - 1, Math.floor(share * list.length))];
    const line = (name, list) => {
      const times = list.map(({ took }) => took).sort((a, b) => a - b);
      const [half, most99, most] = [0.5, 0.99, 1].map((share) => `${at(times, share).toFixed(0)} ms`);
      console.log(
        `${name.padEnd(24)} ${String(times.length).padStart(5)} answers, half under ${half}, 99 in 100 under ${most99}, most ${most}`,
      );
    };
    for (const name of [...new Set(taken.map((answer) => answer.name))].sort())
      line(
        name,
        taken.filter((answer) => answer.name === name),
      );
    line('all', taken);
    const faults = taken.filter(({ status }) => status >= 500 || status === 0).length;
    const refused = taken.filter(({ status }) => status >= 300 && status < 500).length;
    console.log(
      `${faults} answers of 5xx or none, ${refused} of 3xx or 4xx, ${(taken.length / ((performance.now() - began) / 1000 + 15)).toFixed(1)} answers a second`,
    );
  });
} finally {
  rmSync(dir, { recursive: true, force: true });
}
