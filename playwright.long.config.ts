import { defineConfig } from '@playwright/test';
import base, { serve, WORKERS } from './playwright.config';

/** Tests that start, kill and restore servers of their own; some compare these with the made-up site. */
export default defineConfig({
  ...base,
  testDir: 'tests/long',
  webServer: Array.from({ length: WORKERS }, (_, worker) => serve('demo', worker)),
});
