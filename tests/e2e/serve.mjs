// Serves the production build on a fresh folder of data: `demo` with the made-up site, `empty` with none. A second argument names
// the folder.
import { spawnSync } from 'node:child_process';
import { rmSync } from 'node:fs';
import path from 'node:path';

const [name, folder = name] = process.argv.slice(2);
process.env.NODE_ENV = 'production';
process.env.TALLY_DATA_DIR = path.resolve('test-results', 'data', folder);
process.env.TALLY_BACKUPS ||= 'off';
rmSync(process.env.TALLY_DATA_DIR, { recursive: true, force: true });
if (name === 'demo') {
  const { status } = spawnSync(process.execPath, ['build/demo.mjs'], { stdio: 'inherit' });
  if (status !== 0) process.exit(1);
}
await import('../../build/server.mjs');
