// Serves the application with hot reload, on the data of the demo unless TALLY_DATA_DIR says otherwise.
import { spawnSync } from 'node:child_process';
import path from 'node:path';
import { checkNode, install } from './ready.mjs';
import { root } from './stamp.mjs';

checkNode();
await install();
process.chdir(root);
process.env.TALLY_DATA_DIR ||= path.join('data', 'demo');
for (const args of [['scripts/build.mjs', '--parts'], ['build/demo.mjs'], ['build/server.mjs', '--dev']]) {
  const { status } = spawnSync(process.execPath, args, { stdio: 'inherit' });
  if (status !== 0) process.exit(status ?? 1);
}
