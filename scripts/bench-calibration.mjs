// Holds the readings against simulated sites of which the truth is known, and prints the table of docs/calibration.md.
// The seeds after `--` are the first and how many: `npm run bench:calibration -- 7001 60`.
import { spawnSync } from 'node:child_process';
import { install } from './ready.mjs';
import { bundled } from './bundle.mjs';
import { root } from './stamp.mjs';

await install();
process.chdir(root);
const outfile = await bundled('calibration/main.ts');
const { status } = spawnSync(process.execPath, [outfile, ...process.argv.slice(2)], { stdio: 'inherit' });
process.exit(status ?? 1);
