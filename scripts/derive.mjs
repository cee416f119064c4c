// Throws away what is derived from the figures of TALLY_DATA_DIR and makes it again from the facts.
import { spawnSync } from 'node:child_process';
import path from 'node:path';
import { build, checkNode, install } from './ready.mjs';
import { root } from './stamp.mjs';

checkNode();
install();
build();
process.chdir(root);
const { status } = spawnSync(process.execPath, [path.join('build', 'derive.mjs')], { stdio: 'inherit' });
process.exit(status ?? 1);
