// Holds the readings against simulated sites of which the truth is known, and prints the table of docs/calibration.md.
// The seeds after `--` are the first and how many: `npm run bench:calibration -- 7001 60`.
import { spawnSync } from 'node:child_process';
import path from 'node:path';
import { install } from './ready.mjs';
import { root } from './stamp.mjs';

install();
process.chdir(root);
const { build } = await import('esbuild');
const outfile = path.join('build', 'benchCalibration.mjs');
await build({
  entryPoints: ['src/bench/calibration/main.ts'],
  outfile,
  bundle: true,
  platform: 'node',
  target: 'node20',
  format: 'esm',
  packages: 'external',
  logLevel: 'warning',
});
const { status } = spawnSync(process.execPath, [outfile, ...process.argv.slice(2)], { stdio: 'inherit' });
process.exit(status ?? 1);
