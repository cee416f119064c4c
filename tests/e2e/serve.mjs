// Serves the production build on a fresh folder of data: `demo` with the made-up site, `empty` with
// none. A second argument names the folder. The made-up site is made once for each build and copied.
import { spawnSync } from 'node:child_process';
import { cpSync, existsSync, readFileSync, renameSync, rmSync } from 'node:fs';
import path from 'node:path';

const [name, folder = name] = process.argv.slice(2);
process.env.NODE_ENV = 'production';
process.env.TALLY_BACKUPS ||= 'off';
const inResults = (...names) => path.resolve('test-results', ...names);
const data = inResults('data', folder);
rmSync(data, { recursive: true, force: true });
if (name === 'demo') cpSync(madeDemo(), data, { recursive: true });
process.env.TALLY_DATA_DIR = data;

/** The folder with the made-up site of this build and day, made first if it is missing. */
function madeDemo() {
  const build = readFileSync('build/stamp', 'utf8').slice(0, 16);
  const made = inResults('made', `demo-${build}-${process.env.TALLY_TODAY ?? 'today'}`);
  if (existsSync(made)) return made;
  const unfinished = `${made}.${process.pid}`;
  const env = { ...process.env, TALLY_DATA_DIR: unfinished };
  const { status } = spawnSync(process.execPath, ['build/demo.mjs'], { stdio: 'inherit', env });
  if (status !== 0) process.exit(1);
  if (existsSync(made)) rmSync(unfinished, { recursive: true });
  else renameSync(unfinished, made);
  return made;
}

await import('../../build/server.mjs');
