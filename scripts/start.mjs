// `npm start` serves your own sites, `npm run demo` the made-up one. Both install and build what is missing first.
import { spawn, spawnSync } from 'node:child_process';
import path from 'node:path';
import { checkNode, SERVER_FLAGS, SERVER_MEMORY, ready } from './ready.mjs';
import { root } from './stamp.mjs';

const demo = process.argv.includes('--demo');
checkNode();
await ready();

process.chdir(root);
process.env.NODE_ENV = 'production';
process.env.NEXT_TELEMETRY_DISABLED = '1';
process.env.TALLY_DATA_DIR ||= path.join('data', demo ? 'demo' : 'own');
// The made-up site can be made again at any time.
if (demo) process.env.TALLY_BACKUPS ||= 'off';
if (demo) {
  const args = [path.join('build', 'demo.mjs'), ...(process.argv.includes('--fresh') ? ['--fresh'] : [])];
  const { status } = spawnSync(process.execPath, args, { stdio: 'inherit' });
  if (status !== 0) process.exit(status ?? 1);
}

// The channel tells the server when this process is gone, however it went.
const server = spawn(process.execPath, [...SERVER_FLAGS, path.join('build', 'server.mjs')], {
  env: { ...SERVER_MEMORY, ...process.env },
  stdio: ['inherit', 'inherit', 'inherit', 'ipc'],
});
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => server.kill(signal));
server.on('exit', (code) => process.exit(code ?? 0));
