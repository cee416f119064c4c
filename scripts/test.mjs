// The one test command: type check, lint, formatting, unit tests, and browser tests on a production build.
// Installs what is missing first. The last line counts everything: `N passed, N failed`.
import { spawn, spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import path from 'node:path';
import { chromiumPath } from './chromium.mjs';
import { checkNode, ready } from './ready.mjs';
import { root } from './stamp.mjs';

checkNode();
await ready();
process.chdir(root);
rmSync('test-results', { recursive: true, force: true });
mkdirSync('test-results');

let [passed, failed] = [0, 0];

function tool(file, args) {
  return (
    spawnSync(process.execPath, [path.join('node_modules', file), ...args], { stdio: 'inherit' }).status === 0
  );
}

/** Runs a tool beside others; what it prints is shown when it is over. */
function beside(name, file, args) {
  const child = spawn(process.execPath, [path.join('node_modules', file), ...args]);
  let text = '';
  for (const stream of [child.stdout, child.stderr]) stream.on('data', (piece) => (text += piece));
  return new Promise((resolve) => {
    child.on('close', (status) => {
      console.log(`\n== ${name}${status === 0 ? ': passed' : ''}\n${text}`.trimEnd());
      if (status === 0) passed++;
      else failed++;
      resolve();
    });
  });
}

/** The same, where others run beside it. */
function shown(file, args) {
  const child = spawn(process.execPath, [path.join('node_modules', file), ...args], { stdio: 'inherit' });
  return new Promise((resolve) => child.on('close', (status) => resolve(status === 0)));
}

/** Reads the counts from a report; a run that left none, or that failed without a failing test, counts as one failure. */
function counted(name, ok, report, counts) {
  const [good, bad] = existsSync(report) ? counts(JSON.parse(readFileSync(report, 'utf8'))) : [0, 0];
  passed += good;
  failed += bad;
  if (!ok && bad === 0) failed++;
  if (ok && good === 0) {
    console.error(`${name}: not one test ran.`);
    failed++;
  }
}

function ensureChromium() {
  if (chromiumPath()) return true;
  const mayInstall = process.getuid?.() === 0 && existsSync('/usr/bin/apt-get');
  if (mayInstall) {
    console.log('Installing Chromium …');
    spawnSync('apt-get', ['update', '-qq'], { stdio: 'inherit' });
    spawnSync('apt-get', ['install', '-y', '-qq', '--no-install-recommends', 'chromium'], {
      stdio: 'inherit',
    });
  }
  if (chromiumPath()) return true;
  console.error(
    'The browser tests need Chromium: install it (Debian: apt-get install chromium), or name it in CHROMIUM_PATH.',
  );
  return false;
}

console.log('\n== unit tests, and beside them types, lint and formatting');
const unit = 'test-results/unit.json';
const checks = async () => {
  await beside('types', 'typescript/bin/tsc', ['--noEmit']);
  await beside('imports', 'dependency-cruiser/bin/dependency-cruise.mjs', ['src']);
  await beside('lint', 'eslint/bin/eslint.js', ['.', '--max-warnings', '0']);
  await beside('formatting', 'prettier/bin/prettier.cjs', ['--check', '--log-level', 'warn', '.']);
};
const [unitOk] = await Promise.all([
  shown('jest/bin/jest.js', ['--json', `--outputFile=${unit}`, '--maxWorkers=2']),
  checks(),
]);
counted('unit tests', unitOk, unit, (r) => [
  r.numPassedTests,
  r.numFailedTests + r.numRuntimeErrorTestSuites,
]);

console.log('\n== browser tests');
if (ensureChromium()) {
  const browser = 'test-results/browser.json';
  counted('browser tests', tool('@playwright/test/cli.js', ['test']), browser, ({ stats }) => [
    stats.expected + stats.flaky,
    stats.unexpected,
  ]);
} else failed++;

console.log(`\n${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);
