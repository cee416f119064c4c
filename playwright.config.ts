import { defineConfig } from '@playwright/test';
import { CHROMIUM_ARGS, chromiumPath } from './scripts/chromium.mjs';

/** Files of tests are run side by side, each with servers of its own: those that run on one share their data. */
export const WORKERS = 3;
const demoOf = (worker: number) => `http://127.0.0.1:${3411 + 20 * worker}`;
const emptyOf = (worker: number) => `http://127.0.0.1:${3412 + 20 * worker}`;
const own = Number(process.env.TEST_PARALLEL_INDEX ?? 0);

/** The made-up site, and a server without any site, each in a fresh folder on every run. */
export const DEMO = demoOf(own);
export const EMPTY = emptyOf(own);
/** The folders that their data are in. */
export const DATA = { demo: `test-results/data/demo-${own}`, empty: `test-results/data/empty-${own}` };
/** The day on which the demo is opened in tests and pictures. */
export const TODAY = '2026-11-24';

/** The server of the made-up site, or of no site, for a worker. */
export const serve = (name: 'demo' | 'empty', worker: number) => {
  const url = name === 'demo' ? demoOf(worker) : emptyOf(worker);
  return {
    command: `node tests/e2e/serve.mjs ${name} ${name}-${worker}`,
    url: `${url}/api/v1/sites`,
    env: { PORT: new URL(url).port, TALLY_TODAY: TODAY },
    timeout: 90_000,
    stdout: 'ignore' as const,
  };
};

export default defineConfig({
  testDir: 'tests/e2e',
  outputDir: 'test-results/browser',
  workers: WORKERS,
  fullyParallel: false,
  // A busy machine may stand still for a while; what passes takes no longer for it.
  timeout: 480_000,
  expect: { timeout: 150_000 },
  reporter: [['list'], ['json', { outputFile: 'test-results/browser.json' }]],
  use: {
    baseURL: DEMO,
    viewport: { width: 1280, height: 800 },
    locale: 'en-GB',
    launchOptions: { executablePath: chromiumPath() ?? undefined, args: CHROMIUM_ARGS },
  },
  webServer: Array.from({ length: WORKERS }, (_, worker) => [
    serve('demo', worker),
    serve('empty', worker),
  ]).flat(),
});
