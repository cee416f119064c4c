// Measures how long all of a site takes to go out, to come in elsewhere, and to go out from there; whether the bytes are the same;
// and how much memory each takes. `npm run bench:archive -- 2000000`: rows.
import { spawn, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { mkdtempSync, readFileSync, rmSync, statSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import yauzl from 'yauzl';
import { ready } from './ready.mjs';
import { bundled } from './bundle.mjs';
import { root } from './stamp.mjs';

await ready();
process.chdir(root);
const ROWS = process.argv[2] ?? '2000000';
const dir = mkdtempSync(path.join(os.tmpdir(), 'tally-bench-'));
const [here, there] = ['here', 'there'].map((name) => path.join(dir, name));
const env = (folder) => ({ ...process.env, TALLY_DATA_DIR: folder });

/** Runs a program to its end; gives the seconds and the most memory in MB. */
function timed(program, folder, args) {
  const began = performance.now();
  const child = spawn(process.execPath, [program, ...args], {
    env: env(folder),
    stdio: ['ignore', 'ignore', 'inherit'],
  });
  let most = 0;
  const look = setInterval(() => {
    try {
      most = Math.max(
        most,
        Number(/VmHWM:\s+(\d+)/.exec(readFileSync(`/proc/${child.pid}/status`, 'utf8'))?.[1] ?? 0),
      );
    } catch {
      // It has just ended.
    }
  }, 20);
  return new Promise((resolve, reject) =>
    child.once('exit', (code) => {
      clearInterval(look);
      if (code !== 0) reject(new Error(`${program} ended with ${code}`));
      else resolve({ seconds: (performance.now() - began) / 1000, mb: most / 1024 });
    }),
  );
}

/** The checksums of all that an archive holds but its manifest, which says when it was made. */
async function contents(file) {
  const zip = await yauzl.openPromise(file);
  const seals = [];
  for await (const entry of zip.eachEntry()) {
    if (entry.fileName === 'manifest.json') continue;
    const hash = createHash('sha256');
    for await (const chunk of await zip.openReadStreamPromise(entry)) hash.update(chunk);
    seals.push(`${entry.fileName} ${hash.digest('hex')}`);
  }
  return seals.join('\n');
}

try {
  const { status } = spawnSync(process.execPath, [await bundled('archive/main.ts'), ROWS], {
    env: env(here),
    stdio: 'inherit',
  });
  if (status !== 0) process.exit(status ?? 1);
  const [one, two] = [path.join(dir, 'one.zip'), path.join(dir, 'two.zip')];
  const steps = [
    ['out', () => timed('build/export-site.mjs', here, [one])],
    ['in', () => timed('build/import-site.mjs', there, [one])],
    ['out again', () => timed('build/export-site.mjs', there, [two])],
  ];
  let all = 0;
  for (const [name, run] of steps) {
    const { seconds, mb } = await run();
    all += seconds;
    console.log(`${name}: ${seconds.toFixed(1)} s, at most ${mb.toFixed(0)} MB`);
  }
  console.log(`all three: ${all.toFixed(1)} s; ${(statSync(one).size / 1e6).toFixed(1)} MB`);
  console.log((await contents(one)) === (await contents(two)) ? 'the same bytes' : 'OTHER BYTES');
} finally {
  rmSync(dir, { recursive: true, force: true });
}
