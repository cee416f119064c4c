// Measures how long a file of daily rows takes to come in, and how long a reading takes then. Prints the ratio to
// reading the same file with the CSV library alone, in the same run, since single times depend on the machine.
import { spawn } from 'node:child_process';
import { createReadStream, mkdtempSync, rmSync, statSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import Papa from 'papaparse';
import { build, install } from './ready.mjs';
import { root } from './stamp.mjs';

install();
build();
process.chdir(root);
const ROWS = Number(process.argv[2] ?? 200_000);
const PORT = '3414';
const home = `http://127.0.0.1:${PORT}`;
const dir = mkdtempSync(path.join(os.tmpdir(), 'tally-bench-'));
const file = path.join(dir, 'rows.csv');
const day = (i) => new Date(Date.UTC(2025, 0, 1) + i * 86_400_000).toISOString().slice(0, 10);

const DAYS = 400;
const lines = ['date,page,query,device,clicks,impressions,ctr,position'];
for (let i = 0; i < ROWS; i++) {
  // Day by day, as files usually come, not in the order in which the rows are stored.
  const at = Math.floor((i * DAYS) / ROWS);
  const n = i % Math.ceil(ROWS / DAYS);
  const device = n % 3 === 0 ? 'desktop' : 'mobile';
  lines.push(
    `${day(at)},https://www.quillow-bees.example/guides/page-${n % 100}/,query number ${n},${device},${i % 7},${40 + (i % 500)},1.5%,${(1 + (i % 300) / 10).toFixed(1)}`,
  );
}
writeFileSync(file, lines.join('\n'));

const now = () => performance.now() / 1000;
async function parseAlone() {
  const start = now();
  await new Promise((resolve) => {
    Papa.parse(createReadStream(file, { encoding: 'utf8' }), { chunk: () => {}, complete: resolve });
  });
  return now() - start;
}
async function send(site) {
  const start = now();
  const body = createReadStream(file);
  const headers = { 'Content-Type': 'text/csv' };
  const { id } = await (
    await fetch(`${home}/api/v1/sites/${site}/imports`, { method: 'POST', body, headers, duplex: 'half' })
  ).json();
  let reports = new Set();
  for (;;) {
    const seen = await (await fetch(`${home}/api/v1/imports/${id}`)).json();
    reports.add(seen.rowsRead);
    if (seen.state === 'done')
      return { seconds: now() - start, reports: reports.size, rows: seen.rowsStored };
    if (seen.state === 'failed') throw new Error(JSON.stringify(seen.problems));
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
}
const median = (list) => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)];
async function timed(url, runs = 15) {
  const times = [];
  for (let i = 0; i < runs; i++) {
    const start = now();
    const answer = await fetch(home + url);
    await answer.text();
    if (!answer.ok) throw new Error(`${url}: ${answer.status}`);
    times.push((now() - start) * 1000);
  }
  return { median: median(times), most: Math.max(...times) };
}
const post = async (url, body) =>
  (
    await fetch(home + url, {
      method: 'POST',
      body: JSON.stringify(body),
      headers: { 'Content-Type': 'application/json' },
    })
  ).json();

const server = spawn(process.execPath, ['build/server.mjs'], {
  env: { ...process.env, NODE_ENV: 'production', PORT, TALLY_DATA_DIR: path.join(dir, 'data') },
  stdio: 'ignore',
});
try {
  for (let up = false; !up;) {
    up = await fetch(`${home}/api/v1/sites`)
      .then((a) => a.ok)
      .catch(() => false);
    if (!up) await new Promise((resolve) => setTimeout(resolve, 100));
  }
  const alone = median([await parseAlone(), await parseAlone(), await parseAlone()]);
  const { id: site } = await post('/api/v1/sites', {
    name: 'Bench',
    address: 'https://www.quillow-bees.example',
  });
  const first = await send(site);
  const again = await send(site);
  const change = await post(`/api/v1/sites/${site}/changes`, {
    title: 'Bench',
    kind: 'title-rewrite',
    day: day(200),
    pages: ['/guides/page-7/'],
    queries: ['query number 7'],
  });
  const api = await timed(`/api/v1/changes/${change.id}/reading`);
  const screen = await timed(`/sites/${site}/ledger/${change.id}`);
  const pages = await timed(`/sites/${site}/pages`);

  const { model } = os.cpus()[0];
  console.log(
    `${new Date().toISOString().slice(0, 10)}, ${os.cpus().length} cores (${model.trim()}), Node.js ${process.versions.node}`,
  );
  console.log(
    `file: ${ROWS.toLocaleString('en-GB')} rows by day, page, query and device, ${(statSync(file).size / 1e6).toFixed(1)} MB`,
  );
  console.log(`CSV library alone:     ${alone.toFixed(2)} s`);
  const line = (name, r) =>
    console.log(
      `${name} ${r.seconds.toFixed(2)} s, ratio ${(r.seconds / alone).toFixed(1)}, ${Math.round(r.rows / r.seconds).toLocaleString('en-GB')} rows/s, ${r.reports} different counts seen`,
    );
  line('first time:           ', first);
  line('the same again:       ', again);
  const ms = (name, r) =>
    console.log(`${name} median ${r.median.toFixed(0)} ms, most ${r.most.toFixed(0)} ms`);
  ms('a reading, HTTP:      ', api);
  ms('a reading, the screen:', screen);
  ms('pages, the screen:    ', pages);
} finally {
  server.kill();
  rmSync(dir, { recursive: true, force: true });
}
