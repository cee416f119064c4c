// `npm test`: type check, lint, formatting, unit tests, and browser tests on a production build. `npm run test:long`: what takes
// long by its nature, as kills under load, starts of whole servers, and laws over many seeds.
// Installs what is missing first. The last line counts everything: `N passed, N failed`.
import { spawn } from 'node:child_process';
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import path from 'node:path';
import { ensureChromium } from './chromium.mjs';
import { checkNode, ready } from './ready.mjs';
import { root } from './stamp.mjs';

checkNode();
await ready();
process.chdir(root);
mkdirSync('test-results', { recursive: true });
// The made-up site of this build is kept for the next run.
for (const name of readdirSync('test-results'))
  if (name !== 'made') rmSync(path.join('test-results', name), { recursive: true });

let [passed, failed] = [0, 0];

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

const reports = { unit: 'test-results/unit.json', browser: 'test-results/browser.json' };

/** Unit tests by a configuration, and what runs beside them. */
async function unitTests(config, beside = Promise.resolve()) {
  const args = ['--config', config, '--json', `--outputFile=${reports.unit}`, '--maxWorkers=2'];
  const [ok] = await Promise.all([shown('jest/bin/jest.js', args), beside]);
  counted('unit tests', ok, reports.unit, (r) => [
    r.numPassedTests,
    r.numFailedTests + r.numRuntimeErrorTestSuites,
  ]);
}

async function browserTests(config) {
  if (!ensureChromium()) return void failed++;
  const ok = await shown('@playwright/test/cli.js', ['test', '--config', config]);
  counted('browser tests', ok, reports.browser, ({ stats }) => [
    stats.expected + stats.flaky,
    stats.unexpected,
  ]);
}

async function checks() {
  await beside('types', 'typescript/bin/tsc', ['--noEmit']);
  await beside('imports', 'dependency-cruiser/bin/dependency-cruise.mjs', ['src']);
  await beside('lint', 'eslint/bin/eslint.js', ['.', '--max-warnings', '0']);
  await beside('formatting', 'prettier/bin/prettier.cjs', ['--check', '--log-level', 'warn', '.']);
}

if (process.argv.includes('--long')) {
  console.log('\n== laws over many seeds, and kills in every transaction');
  await unitTests('jest.long.config.mjs');
  console.log('\n== servers that are started, killed and restored');
  await browserTests('playwright.long.config.ts');
} else {
  console.log('\n== unit tests, and beside them types, lint and formatting');
  await unitTests('jest.config.mjs', checks());
  console.log('\n== browser tests');
  await browserTests('playwright.config.ts');
}

console.log(`\n${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);
