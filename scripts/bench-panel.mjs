// Holds the readings against a real panel in which nothing was changed, and prints its table of docs/calibration.md.
// The seeds after `--` are the first and how many: `npm run bench:panel -- 1 100`.
import { spawnSync } from 'node:child_process';
import { install } from './ready.mjs';
import { bundled } from './bundle.mjs';
import { root } from './stamp.mjs';

await install();
process.chdir(root);
const outfile = await bundled('panel/main.ts');
const { status } = spawnSync(process.execPath, [outfile, ...process.argv.slice(2)], { stdio: 'inherit' });
process.exit(status ?? 1);
