// Holds rounds against the truth of simulated sites. Arguments: the first seed, and the number of sites.
import { spawnSync } from 'node:child_process';
import { install } from './ready.mjs';
import { bundled } from './bundle.mjs';
import { root } from './stamp.mjs';

await install();
process.chdir(root);
const { status } = spawnSync(process.execPath, [await bundled('rounds/main.ts'), ...process.argv.slice(2)], {
  stdio: 'inherit',
});
process.exit(status ?? 1);
