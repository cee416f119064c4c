// Measures how long it takes to tell what ten results have in common, and to hold a draft against them.
import { spawnSync } from 'node:child_process';
import { install } from './ready.mjs';
import { bundled } from './bundle.mjs';
import { root } from './stamp.mjs';

await install();
process.chdir(root);
const { status } = spawnSync(process.execPath, [await bundled('wording/main.ts')], { stdio: 'inherit' });
process.exit(status ?? 1);
