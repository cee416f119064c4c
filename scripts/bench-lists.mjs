// Measures lists at full size beside the same question in SQL on a plain indexed table in the sqlite3 program, and then the screens
// over HTTP with the server running. Needs the program sqlite3 on the path.
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

try {
  const made = spawnSync(process.execPath, [await bundled('lists/main.ts'), dir, ...process.argv.slice(2)], {
    stdio: 'inherit',
  });
  if (made.status !== 0) process.exit(made.status ?? 1);
  await withServer(dir, '3418', async (ask) => {
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
  });
} finally {
  rmSync(dir, { recursive: true, force: true });
}
