// Installs what is missing and builds what is out of date, so that one command is enough on a fresh machine.
import { spawn } from 'node:child_process';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { packagesStamp, root, sourceStamp } from './stamp.mjs';

const INSTALLED = path.join(root, 'node_modules', '.modest-tally-stamp');
const BUILT = path.join(root, 'build', 'stamp');

/**
 * How the server is started: room enough for what one screen takes while it is drawn, and a collection once the heap has doubled, so that
 * memory is given back before long. Less room saves a hundred megabytes and costs a fifth more of every screen.
 */
export const SERVER_FLAGS = ['--max-semi-space-size=16', '--heap-growing-percent=100'];

/** Has the GNU C library give large arrays back to the system once they are freed; others do not heed it. */
export const SERVER_MEMORY = {
  MALLOC_ARENA_MAX: '2',
  MALLOC_MMAP_THRESHOLD_: '131072',
  MALLOC_TRIM_THRESHOLD_: '131072',
};

function holds(file, stamp) {
  return existsSync(file) && readFileSync(file, 'utf8') === stamp;
}

/** Runs a command to its end. Ends this process if the command fails. */
async function run(command, args) {
  const child = spawn(command, args, { cwd: root, stdio: 'inherit', shell: process.platform === 'win32' });
  const status = await new Promise((resolve) => child.on('close', resolve));
  if (status === 0) return;
  console.error(`\`${[command, ...args].join(' ')}\` failed; its messages above say why.`);
  process.exit(status ?? 1);
}

/** Checks the version of Node.js in words, since the packages would only fail somewhere inside. */
export function checkNode() {
  const [major, minor] = process.versions.node.split('.').map(Number);
  if (major > 20 || (major === 20 && minor >= 9)) return;
  console.error(`Modest Tally needs Node.js 20.9 or later; this is ${process.versions.node}.`);
  process.exit(1);
}

/** Installs and compiles the pinned packages unless they are there. */
export async function install() {
  if (isInstalled()) return;
  await download();
  await compile();
  writeFileSync(INSTALLED, packagesStamp());
}

/** Installs what is missing and builds what is out of date; the build doesn't wait for the compiler. */
export async function ready() {
  if (isInstalled()) return build();
  await download();
  await Promise.all([compile(), build()]);
  writeFileSync(INSTALLED, packagesStamp());
}

const isInstalled = () => holds(INSTALLED, packagesStamp());

async function download() {
  if (packagesAreThere()) return;
  console.log('Installing packages (a few minutes the first time) …');
  await run('npm', [
    'ci',
    '--include=dev',
    '--ignore-scripts',
    '--no-audit',
    '--no-fund',
    '--loglevel=error',
  ]);
}

/** Compiles the one package that needs it, or fetches its binary where that can be reached. */
async function compile() {
  if (existsSync(path.join(root, 'node_modules/better-sqlite3/build/Release/better_sqlite3.node'))) return;
  await run('npm', ['rebuild', 'better-sqlite3', '--loglevel=error']);
}

/** Whether `npm ci` was run by hand for this very lock file: npm keeps a copy of what it installed. */
function packagesAreThere() {
  const copy = path.join(root, 'node_modules', '.package-lock.json');
  if (!existsSync(copy)) return false;
  const wanted = JSON.parse(readFileSync(path.join(root, 'package-lock.json'), 'utf8')).packages;
  const there = JSON.parse(readFileSync(copy, 'utf8')).packages;
  return Object.entries(wanted).every(
    ([name, entry]) => name === '' || entry.optional || there[name]?.version === entry.version,
  );
}

/** Builds the application unless the build fits the sources. */
async function build() {
  if (holds(BUILT, sourceStamp()) && existsSync(path.join(root, '.next', 'BUILD_ID'))) return;
  console.log('Building (about a minute the first time) …');
  await run(process.execPath, [path.join('scripts', 'build.mjs')]);
}
