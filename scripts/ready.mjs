// Installs what is missing and builds what is out of date, so that one command is enough on a fresh machine.
import { spawnSync } from 'node:child_process';
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

function run(command, args) {
  const { status } = spawnSync(command, args, {
    cwd: root,
    stdio: 'inherit',
    shell: process.platform === 'win32',
  });
  if (status !== 0) {
    console.error(`\`${[command, ...args].join(' ')}\` failed; its messages above say why.`);
    process.exit(status ?? 1);
  }
}

/** Checks the version of Node.js in words, since the packages would only fail somewhere inside. */
export function checkNode() {
  const [major, minor] = process.versions.node.split('.').map(Number);
  if (major > 20 || (major === 20 && minor >= 9)) return;
  console.error(`Modest Tally needs Node.js 20.9 or later; this is ${process.versions.node}.`);
  process.exit(1);
}

/** Installs the pinned packages unless they are there. */
export function install() {
  const stamp = packagesStamp();
  if (holds(INSTALLED, stamp)) return;
  if (!packagesAreThere()) {
    console.log('Installing packages (a few minutes the first time) …');
    run('npm', ['ci', '--include=dev', '--no-audit', '--no-fund', '--loglevel=error']);
  }
  writeFileSync(INSTALLED, stamp);
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
export function build() {
  if (holds(BUILT, sourceStamp()) && existsSync(path.join(root, '.next', 'BUILD_ID'))) return;
  console.log('Building (about a minute the first time) …');
  run(process.execPath, [path.join('scripts', 'build.mjs')]);
}
