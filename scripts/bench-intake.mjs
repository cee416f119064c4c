// Measures how long a file of daily rows by page, query and device takes to come in: first into an empty database, then
// the same file again, which replaces every row. Prints the ratio to the sqlite3 program's own `.import` of the same file
// into a plain table, turn by turn in the same run, since single times depend on the machine; then whether ten times the
// rows come in as fast. `npm run bench:intake -- 2000000 5`: rows, and turns.
import { spawnSync } from 'node:child_process';
import { createWriteStream, mkdirSync, mkdtempSync, rmSync, statSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { once } from 'node:events';
import { setTimeout as pause } from 'node:timers/promises';
import { sendFile, startServer } from './http-intake.mjs';
import { ready } from './ready.mjs';
import { bundled } from './bundle.mjs';
import { root } from './stamp.mjs';

await ready();
process.chdir(root);
const ROWS = Number(process.argv[2] ?? 2_000_000);
const TURNS = Number(process.argv[3] ?? 5);
const PAGES = 500;
const DAYS = 400;
const dir = mkdtempSync(path.join(os.tmpdir(), 'tally-bench-'));
const program = await bundled('intake/main.ts');
const daily = await bundled('intake/daily.ts');

const day = (i) => new Date(Date.UTC(2025, 0, 1) + i * 86_400_000).toISOString().slice(0, 10);

/** Day by day, as files usually come, not in the order in which the rows are stored. */
async function writeFile(rows) {
  const file = path.join(dir, `${rows}.csv`);
  const out = createWriteStream(file);
  let text = 'date,page,query,device,clicks,impressions,ctr,position\n';
  const aDay = Math.ceil(rows / DAYS);
  for (let i = 0; i < rows; i++) {
    const n = i % aDay;
    text += `${day(Math.floor(i / aDay))},https://www.quillow-bees.example/guides/page-${n % PAGES}/,query number ${n},${n % 3 === 0 ? 'desktop' : 'mobile'},${i % 7},${40 + (i % 500)},1.5%,${(1 + (i % 300) / 10).toFixed(1)}\n`;
    if (text.length > 1 << 20) {
      if (!out.write(text)) await once(out, 'drain');
      text = '';
    }
  }
  out.end(text);
  await once(out, 'finish');
  return file;
}

/** The rows of the file once more, as JSON Lines or Parquet. */
async function inOtherForm(form) {
  const file = path.join(dir, 'other');
  const row = (i) => {
    const n = i % Math.ceil(ROWS / DAYS);
    return {
      date: day(Math.floor(i / Math.ceil(ROWS / DAYS))),
      page: `https://www.quillow-bees.example/guides/page-${n % PAGES}/`,
      query: `query number ${n}`,
      device: n % 3 === 0 ? 'desktop' : 'mobile',
      clicks: i % 7,
      impressions: 40 + (i % 500),
      position: 1 + (i % 300) / 10,
    };
  };
  if (form === 'Parquet') {
    const { parquetWriteFile } = await import('hyparquet-writer');
    const rows = Array.from({ length: ROWS }, (_, i) => row(i));
    const columnData = Object.entries({
      ...{ date: 'STRING', page: 'STRING', query: 'STRING', device: 'STRING' },
      ...{ clicks: 'INT32', impressions: 'INT32', position: 'DOUBLE' },
    }).map(([name, type]) => ({ name, type, data: rows.map((one) => one[name]) }));
    parquetWriteFile({ filename: file, columnData });
    return file;
  }
  const out = createWriteStream(file);
  let text = '';
  for (let i = 0; i < ROWS; i++) {
    text += `${JSON.stringify(row(i))}\n`;
    if (text.length > 1 << 20) {
      if (!out.write(text)) await once(out, 'drain');
      text = '';
    }
  }
  out.end(text);
  await once(out, 'finish');
  return file;
}

function fresh(name) {
  const folder = path.join(dir, name);
  rmSync(folder, { recursive: true, force: true });
  mkdirSync(folder);
  return folder;
}

function bringIn(folder, file) {
  const { status, stdout, stderr } = spawnSync(process.execPath, [program, folder, file], {
    encoding: 'utf8',
  });
  if (status !== 0) throw new Error(stderr);
  return JSON.parse(stdout);
}

function sqliteImport(file) {
  const database = path.join(fresh('sqlite'), 'plain.sqlite');
  const start = performance.now();
  const { error, status } = spawnSync('sqlite3', [database, '.mode csv', `.import ${file} rows`]);
  if (error || status !== 0)
    throw new Error('The sqlite3 program is needed (Debian: apt-get install sqlite3).');
  return (performance.now() - start) / 1000;
}

const median = (list) => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)];
const number = (n) => Math.round(n).toLocaleString('en-GB');
const spread = (list) => `${Math.min(...list).toFixed(2)} to ${Math.max(...list).toFixed(2)}`;

try {
  const { model } = os.cpus()[0];
  console.log(
    `${new Date().toISOString().slice(0, 10)}, ${os.cpus().length} cores (${model.trim()}), Node.js ${process.versions.node}`,
  );
  const file = await writeFile(ROWS);
  console.log(
    `file: ${number(ROWS)} rows by day, page, query and device, ${(statSync(file).size / 1e6).toFixed(0)} MB`,
  );
  const turns = [];
  for (let i = 0; i < TURNS; i++) {
    const plain = sqliteImport(file);
    const folder = fresh('tally');
    const first = bringIn(folder, file);
    const again = bringIn(folder, file);
    if (first.rows !== ROWS || again.replaced !== ROWS) throw new Error('Rows are missing.');
    turns.push({ plain, first, again, bytes: statSync(path.join(folder, 'tally.sqlite')).size });
  }
  const of = (pick) => turns.map(pick);
  console.log(`sqlite3 .import into a plain table  median ${median(of((t) => t.plain)).toFixed(2)} s`);
  for (const [name, pick] of [
    ['into an empty database          ', (t) => t.first],
    ['again, replacing every row      ', (t) => t.again],
  ]) {
    const ratios = of((t) => pick(t).seconds / t.plain);
    console.log(
      `${name}    median ${median(of((t) => pick(t).seconds)).toFixed(2)} s, ratio ${median(ratios).toFixed(2)} (${spread(ratios)}), ${number(ROWS / median(of((t) => pick(t).seconds)))} rows/s, peak memory ${Math.max(...of((t) => pick(t).peakMb)).toFixed(0)} MB`,
    );
  }
  // Over HTTP, by turns with the other program again: from the first byte sent to `done`.
  const small = await writeFile(9000);
  const overHttp = [];
  for (let i = 0; i < TURNS; i++) {
    const plain = sqliteImport(file);
    const server = await startServer(fresh('http'));
    const large = await sendFile(server.siteId, file);
    await pause(2000);
    const little = await sendFile(server.siteId, small);
    await server.stop();
    overHttp.push({ ratio: large.seconds / plain, large, little });
  }
  const ratios = overHttp.map(({ ratio }) => ratio);
  console.log(
    `over HTTP, first byte to done           median ${median(overHttp.map((t) => t.large.seconds)).toFixed(2)} s, ratio ${median(ratios).toFixed(2)} (${spread(ratios)}), of it received in ${median(overHttp.map((t) => t.large.sent)).toFixed(2)} s`,
  );
  console.log(
    `over HTTP, a file of 9,000 rows         median ${median(overHttp.map((t) => t.little.seconds)).toFixed(2)} s (${spread(overHttp.map((t) => t.little.seconds))})`,
  );
  for (const [name, type] of [
    ['JSON Lines', 'application/jsonl'],
    ['Parquet', 'application/vnd.apache.parquet'],
  ]) {
    const other = await inOtherForm(name);
    const done = bringIn(fresh('tally'), other);
    console.log(
      `the same rows as ${name.padEnd(12)}           ${done.seconds.toFixed(2)} s, ${number(done.rows / done.seconds)} rows/s, peak memory ${done.peakMb.toFixed(0)} MB (${type})`,
    );
    rmSync(other);
  }
  rmSync(file);

  const { status, stdout, stderr } = spawnSync(process.execPath, [daily, fresh('daily'), '240'], {
    encoding: 'utf8',
  });
  if (status !== 0) throw new Error(stderr);
  const feed = JSON.parse(stdout);
  const mb = ({ bytes }) => `${(bytes / 1e6).toFixed(1)} MB (${(bytes / feed.single.bytes).toFixed(2)})`;
  const ms = ({ reading }) =>
    `${(reading * 1000).toFixed(0)} ms (${(reading / feed.single.reading).toFixed(2)})`;
  console.log(`240 daily files, each with three days, ${number(feed.rows)} rows in all; against one file:`);
  for (const [name, of] of [
    ['one file                               ', feed.single],
    ['240 files, not folded                  ', feed.unfolded],
    ['folded, those of 90 days can be undone ', feed.kept],
    ['folded, all of them old                ', feed.folded],
  ])
    console.log(`  ${name} ${mb(of)}, first reading ${ms(of)}`);

  const sizes = [ROWS / 2, ROWS * 5].map((rows) => ({ rows, runs: [] }));
  for (const size of sizes) size.file = await writeFile(size.rows);
  // By turns again, since the machine is faster in one minute than in another.
  for (let i = 0; i < 3; i++) for (const size of sizes) size.runs.push(bringIn(fresh('tally'), size.file));
  const rates = sizes.map(({ rows, runs }) => {
    const seconds = median(runs.map((run) => run.seconds));
    console.log(
      `${number(rows).padStart(10)} rows: median ${seconds.toFixed(2)} s, ${number(rows / seconds)} rows/s, peak memory ${Math.max(...runs.map((run) => run.peakMb)).toFixed(0)} MB`,
    );
    return rows / seconds;
  });
  console.log(
    `rows a second with ten times the rows: ${(rates[1] / rates[0]).toFixed(2)} of those with fewer`,
  );
} finally {
  rmSync(dir, { recursive: true, force: true });
}
