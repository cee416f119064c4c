import path from 'node:path';
import { Worker } from 'node:worker_threads';
import { addDays } from '../core/calendar/day';
import type { Inspection, Stated } from '../core/intake/inspection';
import type { Site } from '../core/model/site';
import { database } from '../store/database';
import { today } from '../store/clock';
import { clearUnfinished } from '../store/arrival';
import { dropOldDrafts, findImport, nextQueued, updateImport } from '../store/imports';
import { timestamp } from '../store/write';
import { FileRefused } from './intake/fileRefused';
import { dropHalfReceived, dropSpooled } from './spool';
import type { WorkerAnswer, WorkerTask } from './worker';

/** Built beside the application by `npm run build`. */
const WORKER_FILE = path.join('build', 'worker.mjs');
const DRAFTS_KEPT_MS = 7 * 24 * 3600 * 1000;

function runWorker(task: WorkerTask): Promise<unknown> {
  return new Promise((resolve, reject) => {
    const worker = new Worker(/* turbopackIgnore: true */ path.resolve(WORKER_FILE), {
      workerData: task,
      resourceLimits: { maxOldGenerationSizeMb: 1024 },
    });
    let answered = false;
    worker.once('message', (answer: WorkerAnswer) => {
      answered = true;
      if ('refused' in answer) reject(new FileRefused(answer.refused, answer.toState));
      else resolve(answer.result);
    });
    worker.once('error', reject);
    worker.once('exit', (code) => {
      if (!answered) reject(new Error(`The worker ended with code ${code} before it answered.`));
    });
  });
}

/** Looks through an uploaded file in a worker. Throws FileRefused where it is no CSV. */
export function inspectUpload(
  importId: number,
  { id, address }: Pick<Site, 'id' | 'address'>,
  stated: Stated,
): Promise<Inspection> {
  const newestDay = addDays(today(), 1);
  const site = { id, address };
  return runWorker({ task: 'inspect', importId, site, newestDay, stated }) as Promise<Inspection>;
}

// One runner a process, wherever this module is loaded from.
const shared = globalThis as { __tallyRunner?: Promise<void> | null };

/** Sees to it that waiting imports are worked off, one at a time. Returns at once. */
export function startRunner(): void {
  shared.__tallyRunner ??= workOff()
    .catch((error: unknown) => console.error('Imports stopped:', error))
    .finally(() => {
      shared.__tallyRunner = null;
      // One may have come in between the last look and this line.
      if (nextQueued(database())) startRunner();
    });
}

async function workOff(): Promise<void> {
  const db = database();
  for (let next = nextQueued(db); next; next = nextQueued(db)) {
    try {
      await runWorker({ task: 'import', importId: next.id });
    } catch (error) {
      console.error(`Import ${next.id} failed:`, error);
    }
    const state = findImport(db, next.id)?.state;
    if (state === 'queued' || state === 'running') {
      const failure =
        'Something went wrong in the program itself, and nothing was stored. The log of the server says more.';
      await updateImport(db, next.id, { state: 'failed', failure, finishedAt: timestamp() });
    }
    await dropSpooled(next.id);
  }
}

/** At the start of the server: takes up what an earlier process left and clears away old drafts. */
export async function resumeAtStart(): Promise<void> {
  const db = database();
  await clearUnfinished(db);
  await dropHalfReceived();
  const dropped = await dropOldDrafts(db, new Date(Date.now() - DRAFTS_KEPT_MS).toISOString());
  await Promise.all(dropped.map(dropSpooled));
  startRunner();
}
