// Holds estimates of openings, and the days of level shifts, against the truth of simulated sites. Arguments: the first seed, and
// the number of sites.
import { spawnSync } from 'node:child_process';
import { install } from './ready.mjs';
import { bundled } from './bundle.mjs';
import { root } from './stamp.mjs';

await install();
process.chdir(root);
for (const entry of ['openings/main.ts', 'openings/shifts.ts', 'openings/siteShifts.ts']) {
  const { status } = spawnSync(process.execPath, [await bundled(entry), ...process.argv.slice(2)], {
    stdio: 'inherit',
  });
  if (status !== 0) process.exit(status ?? 1);
}
