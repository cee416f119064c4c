// Measures lists at full size beside the same question in SQL on a plain indexed table in the sqlite3 program, and then the screens
// over HTTP with the server running. Needs the program sqlite3 on the path.
import { spawn, spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { build, install, SERVER_FLAGS } from './ready.mjs';
import { bundled } from './bundle.mjs';
import { root } from './stamp.mjs';

install();
build();
process.chdir(root);
const PORT = '3418';
const home = `http://127.0.0.1:${PORT}`;
const dir = mkdtempSync(path.join(os.tmpdir(), 'tally-bench-'));

async function ask(url) {
  const start = performance.now();
  const answer = await fetch(home + url);
  const text = await answer.text();
  if (!answer.ok) throw new Error(`${url}: ${answer.status}`);
  return { took: performance.now() - start, bytes: Buffer.byteLength(text) };
}
const median = (list) => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)];

try {
  const made = spawnSync(process.execPath, [await bundled('lists/main.ts'), dir, ...process.argv.slice(2)], {
    stdio: 'inherit',
  });
  if (made.status !== 0) process.exit(made.status ?? 1);
  const server = spawn(process.execPath, [...SERVER_FLAGS, 'build/server.mjs'], {
    env: { ...process.env, NODE_ENV: 'production', PORT, TALLY_DATA_DIR: dir },
    stdio: 'ignore',
  });
  try {
    for (let up = false; !up;) {
      up = await fetch(`${home}/api/v1/sites`)
        .then((answer) => answer.ok)
        .catch(() => false);
      if (!up) await new Promise((resolve) => setTimeout(resolve, 100));
    }
    for (const [name, url] of [
      ['the list of pages', '/sites/1/pages'],
      ['the list of queries', '/sites/1/queries'],
      ['queries page by page', '/sites/1/queries?each=page'],
      ['openings', '/sites/1/openings'],
      ['one page', '/sites/1/pages/40'],
      ['one query', '/sites/1/queries/40'],
    ]) {
      const first = await ask(url);
      const times = [];
      for (let i = 0; i < 7; i++) times.push((await ask(url)).took);
      console.log(
        `${name}, the screen: first ${first.took.toFixed(0)} ms, then median ${median(times).toFixed(0)} ms, ${Math.round(first.bytes / 1000)} kB`,
      );
    }
    const status = readFileSync(`/proc/${server.pid}/status`, 'utf8');
    const [now, most] = ['VmRSS', 'VmHWM'].map(
      (name) => Number(new RegExp(`${name}:\\s+(\\d+)`).exec(status)?.[1]) / 1024,
    );
    console.log(`memory of the server: ${now.toFixed(0)} MB, at most ${most.toFixed(0)} MB`);
  } finally {
    server.kill();
  }
} finally {
  rmSync(dir, { recursive: true, force: true });
}
