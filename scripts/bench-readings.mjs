// Measures readings on a site of full size: in one process, and then over HTTP with the server running. Prints ratios to
// plainly summing the same arrays once, in the same run, since single times depend on the machine.
import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { median, withServer } from './bench-server.mjs';
import { ready } from './ready.mjs';
import { bundled } from './bundle.mjs';
import { root } from './stamp.mjs';

await ready();
process.chdir(root);
const dir = mkdtempSync(path.join(os.tmpdir(), 'tally-bench-'));
const outfile = await bundled('readings/main.ts');

const ms = (value) => `${value.toFixed(0)} ms`;
const at = (list, share) => [...list].sort((a, b) => a - b)[Math.floor(share * (list.length - 1))];
const spread = (list) =>
  `median ${ms(median(list))}, 19 in 20 under ${ms(at(list, 0.95))}, most ${ms(at(list, 1))}`;

const home = 'http://127.0.0.1:3416';

/** Begins a round of the 200 pages with the most clicks, says that its first half was made long ago, and reads it some times. */
async function roundTimes(base, ask) {
  const send = async (url, data) => {
    const headers = { 'Content-Type': 'application/json' };
    const answer = await fetch(base + url, { method: 'POST', headers, body: JSON.stringify(data) });
    if (!answer.ok) throw new Error(await answer.text());
    return answer.json();
  };
  const { items } = await (await fetch(`${base}/api/v1/sites/1/pages?limit=200&sort=-clicks`)).json();
  const { id } = await send('/api/v1/sites/1/rounds', {
    ...{ name: 'Two hundred', kind: 'title-rewrite', draw: 'halves', seed: 3 },
    pages: items.map((item) => item.page),
  });
  const changes = await (await fetch(`${base}/api/v1/sites/1/changes`)).json();
  const day = changes
    .map((change) => change.day)
    .sort()
    .at(-60);
  await send(`/api/v1/rounds/${id}/made`, { half: 'first', day });
  await ask(`/api/v1/rounds/${id}/reading`);
  const times = [];
  for (let i = 0; i < 10; i++) times.push(await ask(`/api/v1/rounds/${id}/reading`));
  return times;
}

try {
  const { model } = os.cpus()[0];
  console.log(
    `${new Date().toISOString().slice(0, 10)}, ${os.cpus().length} cores (${model.trim()}), Node.js ${process.versions.node}`,
  );
  const made = spawnSync(process.execPath, [outfile, dir, ...process.argv.slice(2)], { stdio: 'inherit' });
  if (made.status !== 0) process.exit(made.status ?? 1);

  await withServer(dir, '3416', async (asked) => {
    const ask = async (url) => (await asked(url)).took;
    const first = await ask('/api/v1/changes/250/reading');
    // The server reads ahead after its start; the others are measured when that is over.
    await ask('/api/v1/sites/1/readings');
    const api = [];
    for (let id = 1; id <= 60; id++) api.push(await ask(`/api/v1/changes/${id * 8}/reading`));
    console.log(`a reading, HTTP: the very first ${ms(first)}, then ${spread(api)}`);
    await ask('/sites/1/ledger/100');
    const screen = [];
    for (let id = 1; id <= 20; id++) screen.push(await ask(`/sites/1/ledger/${id * 20}`));
    console.log(`a reading, the screen: ${spread(screen)}`);
    for (const [name, urls] of [
      ['the desk', Array(20).fill('/sites/1/desk')],
      ['the list of pages', Array(10).fill('/sites/1/pages')],
      ['one page', Array.from({ length: 20 }, (_, i) => `/sites/1/pages/${(i + 1) * 40}`)],
      ['the form for a change', Array(20).fill('/sites/1/ledger/new')],
    ]) {
      await ask(urls[0]);
      const times = [];
      for (const url of urls) times.push(await ask(url));
      console.log(`${name}, the screen: ${spread(times)}`);
    }
    console.log(`a round of 200 pages, HTTP: ${spread(await roundTimes(home, ask))}`);
    const list = [];
    for (let i = 0; i < 5; i++) list.push(await ask('/api/v1/sites/1/readings?windowDays=28&settlingDays=7'));
    console.log(`all ${500} readings, HTTP: first ${ms(list[0])}, median ${ms(median(list))}`);

    const idle = [];
    for (let i = 0; i < 200; i++) idle.push(await ask('/api/v1/sites'));
    console.log(`other answers while nothing is read: ${spread(idle)}`);
    // Spans that nothing was learned for yet, so that the thread that reads is busy the whole time.
    const waits = [];
    let busy = true;
    const work = (async () => {
      for (let days = 20; days < 28; days++) await ask(`/api/v1/sites/1/readings?windowDays=${days}`);
      busy = false;
    })();
    while (busy) {
      waits.push(await ask('/api/v1/sites'));
      await new Promise((resolve) => setTimeout(resolve, 5));
    }
    await work;
    console.log(`other answers while all is read: ${spread(waits)}`);
  });
} finally {
  rmSync(dir, { recursive: true, force: true });
}
