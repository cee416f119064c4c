// Runs a built program on the data in TALLY_DATA_DIR: `derive`, `backup FILE`, `restore FILE`,
// `export-site FILE [SITE]`, `import-site FILE`, `account …`.
import { spawnSync } from 'node:child_process';
import path from 'node:path';
import { checkNode, ready } from './ready.mjs';
import { root } from './stamp.mjs';

const [name, ...rest] = process.argv.slice(2);
checkNode();
await ready();
process.chdir(root);
const { status } = spawnSync(process.execPath, [path.join('build', `${name}.mjs`), ...rest], {
  stdio: 'inherit',
});
process.exit(status ?? 1);
