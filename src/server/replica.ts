import { spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import path from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import { dataDir, databaseFile } from '../store/paths';
import { replicaConfig, replicaTold } from '../store/replica';
import { DatabaseRefused } from '../store/refused';

/*
 * Continuous replication to another place by Litestream: it reads the write-ahead log of the database as it grows, and copies it
 * every second. It runs as a process of its own beside the server, with which it is begun and ended.
 */

/** Between two tries, where it ended by itself. */
const AGAIN_MS = 5000;
/** How long it may take to copy the last of it when the server ends. */
const LAST_COPY_MS = 10_000;

const configFile = () => path.join(dataDir(), 'replica.json');

/** The program: the one that TALLY_LITESTREAM names, or that came with the packages. Throws DatabaseRefused. */
function program(): string {
  const told = process.env.TALLY_LITESTREAM;
  if (told) {
    if (existsSync(told)) return told;
    throw new DatabaseRefused(`TALLY_LITESTREAM names ${told}, where there is no program.`);
  }
  try {
    // The name is put together so that bundlers leave it to run time: it is an optional package of one platform.
    const name = ['@flydotio', `litestream-${process.platform}-${process.arch}`, 'package.json'].join('/');
    return path.join(path.dirname(createRequire(import.meta.url).resolve(name)), 'litestream');
  } catch {
    throw new DatabaseRefused(
      'TALLY_REPLICA is set, and Litestream is not here: its package comes for Linux on x64. Install it, and name it in TALLY_LITESTREAM.',
    );
  }
}

const state = globalThis as { __tallyReplica?: 'running' | 'stopped' };

let child: ChildProcess | null = null;
let ending = false;

/** Ends those that a server which died left behind; two would be in each other's way. */
async function endOrphans(): Promise<void> {
  for (const pid of orphans()) process.kill(pid, 'SIGTERM');
  for (let left = 40; left > 0 && orphans().length > 0; left--) await sleep(100);
  for (const pid of orphans()) process.kill(pid, 'SIGKILL');
}

/** Processes that copy this very database. Their own list of them is all that outlasts a folder that was deleted. */
function orphans(): number[] {
  if (!existsSync('/proc/self/cmdline')) return [];
  return readdirSync('/proc')
    .filter((name) => /^\d+$/.test(name) && Number(name) !== process.pid)
    .filter((pid) => {
      try {
        const [, task, , config] = readFileSync(`/proc/${pid}/cmdline`, 'utf8').split('\0');
        return task === 'replicate' && config === configFile();
      } catch {
        // It has ended meanwhile, or is somebody else's.
        return false;
      }
    })
    .map(Number);
}

/**
 * Fetches the database from the replica where there is none here. Whether it was fetched. Throws DatabaseRefused where the replica
 * cannot be read: beginning anew beside it would be worse.
 */
export async function fetchFromReplica(): Promise<boolean> {
  const replica = replicaTold();
  if (!replica || existsSync(databaseFile())) return false;
  await endOrphans();
  writeConfig();
  const { status, stderr } = spawnSync(
    program(),
    ['restore', '-config', configFile(), '-if-replica-exists', databaseFile()],
    { encoding: 'utf8' },
  );
  if (status !== 0)
    throw new DatabaseRefused(
      `The database is not here, and could not be fetched from the replica at ${replica.shown}: ${stderr.trim().split('\n').at(-1) ?? ''}`,
    );
  return existsSync(databaseFile());
}

function writeConfig(): void {
  const replica = replicaTold();
  if (replica)
    writeFileSync(configFile(), JSON.stringify(replicaConfig(databaseFile(), replica), null, 2), {
      mode: 0o600,
    });
}

/** Begins to copy the database to the replica, where one is told. */
export async function beginReplica(): Promise<void> {
  if (!replicaTold()) return;
  const file = program();
  await endOrphans();
  writeConfig();
  run(file);
}

function run(file: string): void {
  const began = spawn(file, ['replicate', '-config', configFile()], { stdio: ['ignore', 'ignore', 'pipe'] });
  child = began;
  state.__tallyReplica = 'running';
  let last = '';
  began.stderr.on('data', (piece: Buffer) => (last = piece.toString().trim().split('\n').at(-1) ?? ''));
  began.on('error', (error) => (last = error.message));
  began.on('close', () => {
    child = null;
    state.__tallyReplica = 'stopped';
    if (ending) return;
    console.error(`Copying to the replica stopped: ${last || 'it gave no reason'}. It is begun again.`);
    setTimeout(() => !ending && run(file), AGAIN_MS).unref();
  });
}

/** Ends it once nothing writes any more; the last of it is copied before. */
export async function endReplica(): Promise<void> {
  ending = true;
  if (!child) return;
  const ended = new Promise((resolve) => child!.once('close', resolve));
  child.kill('SIGTERM');
  await Promise.race([ended, sleep(LAST_COPY_MS)]);
  child?.kill('SIGKILL');
}
