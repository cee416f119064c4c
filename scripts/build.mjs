// Builds the application and, beside it, the parts that run outside of it: the server that carries it, the worker
// for long tasks, the maker of the demo, and the rebuilding of what is derived.
import { spawnSync } from 'node:child_process';
import { rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { root, sourceStamp } from './stamp.mjs';

process.chdir(root);
const env = { ...process.env, NEXT_TELEMETRY_DISABLED: '1', NEXT_IGNORE_INCORRECT_LOCKFILE: '1' };
// Seen once: the bundler waiting for itself for ever. A build takes half a minute, on a slow machine a few.
const STANDS_STILL_MS = 5 * 60_000;
const partsOnly = process.argv.includes('--parts');

const { build } = await import('esbuild');
await build({
  entryPoints: {
    server: 'src/server/main.ts',
    worker: 'src/jobs/worker.ts',
    readerThread: 'src/jobs/intake/thread.ts',
    questionsWorker: 'src/jobs/questions/worker.ts',
    checkpointsThread: 'src/jobs/checkpoints/thread.ts',
    demo: 'src/demo/main.ts',
    derive: 'src/jobs/derive.ts',
    backup: 'src/server/backup.ts',
    restore: 'src/server/restore.ts',
    account: 'src/server/account.ts',
    'export-site': 'src/server/exportSite.ts',
    'import-site': 'src/server/importSite.ts',
  },
  outdir: 'build',
  outExtension: { '.js': '.mjs' },
  bundle: true,
  platform: 'node',
  target: 'node20',
  format: 'esm',
  packages: 'external',
  sourcemap: true,
  logLevel: 'warning',
});

if (!partsOnly) {
  const next = path.join('node_modules', 'next', 'dist', 'bin', 'next');
  const buildOnce = () =>
    spawnSync(process.execPath, [next, 'build'], {
      stdio: 'inherit',
      env,
      timeout: STANDS_STILL_MS,
      killSignal: 'SIGKILL',
    });
  let result = buildOnce();
  if (result.error?.code === 'ETIMEDOUT') {
    console.error('The build stood still; it is begun anew.');
    rmSync('.next', { recursive: true, force: true });
    result = buildOnce();
  }
  if (result.status !== 0) process.exit(result.status ?? 1);
  writeFileSync(path.join('build', 'stamp'), sourceStamp());
}
