import type { AddressRules } from '../core/address/rules';
import { addDays, type Day } from '../core/calendar/day';
import type { Inspection, Stated } from '../core/intake/inspection';
import type { IntakeSettings } from '../core/intake/settings';
import type { Site } from '../core/model/site';
import { database } from '../store/database';
import { today } from '../store/clock';
import { clearUnfinished, failImport } from '../store/arrival';
import { dropOldDrafts, findImport, nextQueued } from '../store/imports';
import { dueFeed, updateFeed } from '../store/feeds';
import { timestamp } from '../store/write';
import type { NamedSettings } from './checkFile';
import { FileRefused } from './intake/fileRefused';
import { dropHalfReceived, dropSpooled } from './spool';
import { startThread } from './thread';
import type { WorkerAnswer, WorkerTask } from './worker';

const FEEDS_LOOKED_AT_MS = 60_000;
const DRAFTS_KEPT_MS = 7 * 24 * 3600 * 1000;

function runWorker(task: WorkerTask): Promise<unknown> {
  return new Promise((resolve, reject) => {
    const worker = startThread('worker', {
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

/** Sees whether a file can be taken as it is, and gives what was settled. Throws FileRefused. */
export function checkInWorker(
  importId: number,
  siteId: number,
  takenOn: Day,
  wish: NamedSettings,
): Promise<IntakeSettings> {
  return runWorker({ task: 'check', importId, siteId, takenOn, wish }) as Promise<IntakeSettings>;
}

/** Undoes an import that is done, or lets one count again. Tells whether there was such a one. */
export function undoInWorker(task: 'undo' | 'redo', siteId: number, importId: number): Promise<boolean> {
  return runWorker({ task, siteId, importId }) as Promise<boolean>;
}

/** Gives the addresses of a site other pages: by other rules, or (null) by those before the last edit. */
export async function rekeyInWorker(siteId: number, rules: AddressRules | null): Promise<void> {
  await runWorker({ task: 'rules', siteId, rules });
}

/** Joins an address to a page by hand, or takes that back. */
export async function joinInWorker(siteId: number, addressId: number, page: string | null): Promise<void> {
  await runWorker({ task: 'join', siteId, addressId, page });
}

// One runner a process, wherever this module is loaded from.
const shared = globalThis as {
  __tallyRunner?: Promise<void> | null;
  __tallyFeeds?: Promise<void> | null;
  __tallyFeedClock?: NodeJS.Timeout;
};

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
      // Rows that were stored before it went wrong count for nothing, and are taken away.
      await failImport(db, next.id, failure, { read: next.rowsRead, refused: 0 }, []);
    }
    await dropSpooled(next.id);
  }
}

/** Sees to it that feeds whose turn it is are fetched, one at a time. Returns at once. */
export function startFeeds(): void {
  shared.__tallyFeeds ??= fetchDue()
    .catch((error: unknown) => console.error('Feeds stopped:', error))
    .finally(() => {
      shared.__tallyFeeds = null;
    });
}

async function fetchDue(): Promise<void> {
  const db = database();
  for (let due = dueFeed(db, Date.now()); due; due = dueFeed(db, Date.now())) {
    try {
      await runWorker({ task: 'feed', feedId: due.id, address: due.address });
    } catch (error) {
      console.error(`Feed ${due.id} failed:`, error);
      await updateFeed(db, due.id, { state: 'idle', lastTriedAt: timestamp() });
    }
    startRunner();
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
  startFeeds();
  // Feeds that are fetched daily come round while the server runs.
  shared.__tallyFeedClock ??= setInterval(startFeeds, FEEDS_LOOKED_AT_MS).unref();
}
