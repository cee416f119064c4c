import { rm } from 'node:fs/promises';
import { setTimeout as sleep } from 'node:timers/promises';
import type { Worker } from 'node:worker_threads';
import type { AddressRules } from '../core/address/rules';
import { addDays, type Day } from '../core/calendar/day';
import type { Inspection, Stated } from '../core/intake/inspection';
import type { IntakeSettings } from '../core/intake/settings';
import type { LedgerInspection } from '../core/ledgerSheet/inspection';
import type { PageRef } from '../core/model/change';
import type { Site } from '../core/model/site';
import { dayOfInstant } from '../core/backup/retention';
import { backupFolder, dailyBackups } from '../store/dailyBackups';
import { database } from '../store/database';
import { today } from '../store/clock';
import { clearUnfinished, failImport } from '../store/figures/arrival';
import { dropOldDrafts, findImport, nextQueued } from '../store/figures/imports';
import { dueFeeds, updateFeed, type FeedRow } from '../store/figures/feeds';
import { sitesToPurge } from '../store/sites';
import { dueLook, keepFailure } from '../store/evidence/snapshots';
import type { WorkSheet } from '../core/working/sheet';
import type { ResultPage } from '../core/wording/resultPage';
import type { Read } from '../services/wording/readResults';
import { keepRival } from '../store/wording/rivals';
import {
  clearUnfinishedSites,
  nextSiteImport,
  unfinishedSiteImports,
  updateSiteImport,
} from '../store/archive/siteImports';
import { timestamp } from '../store/write';
import type { NamedSettings } from './checkFile';
import { FileRefused } from './intake/fileRefused';
import type { Unpacking } from './intake/archive';
import type { Looked } from './lookAtPage';
import { archiveSpool, archiveStream } from './siteArchive';
import { dropLeftovers, dropSpooled } from './spool';
import { holdFigures } from './questions/ask';
import { GO_ON, isEnding, startThread } from './thread';
import type { WorkerMessage, WorkerTask } from './worker';

const TURNS_LOOKED_AT_MS = 60_000;
const TRY_AGAIN_MS = 5000;
/** Fetching and understanding one page, hostile ones included. */
const LONGEST_LOOK_MS = 60_000;
/** Between two pages of watched sites, so that no host is pressed. */
const PAUSE_BETWEEN_LOOKS_MS = 1000;
const DRAFTS_KEPT_MS = 7 * 24 * 3600 * 1000;

/** A thread that has loaded its code and waits for a task: to load it takes longer than most tasks. */
function loadedWorker(): Worker {
  return startThread('worker', { resourceLimits: { maxOldGenerationSizeMb: 1024 } });
}

/** Has a thread ready for the next task. */
export function readyWorker(): void {
  keepSpare(shared.__tallySpare ?? loadedWorker());
}

/** Lets a thread wait for the next task, or ends it where one waits already. */
function keepSpare(worker: Worker): void {
  if (shared.__tallySpare && shared.__tallySpare !== worker) {
    void worker.terminate();
    return;
  }
  shared.__tallySpare = worker;
  // One that waits must not keep the process alive.
  worker.unref();
  const gone = () => {
    if (shared.__tallySpare === worker) shared.__tallySpare = null;
  };
  worker.once('error', gone);
  worker.once('exit', gone);
}

function takeWorker(): Worker {
  const worker = shared.__tallySpare ?? loadedWorker();
  shared.__tallySpare = null;
  worker.removeAllListeners();
  worker.ref();
  return worker;
}

/** Larger files leave much memory behind, which ends with their thread. */
const SMALL_FILE_BYTES = 16 * 1024 * 1024;

/** Whether a thread is as good as new after a task, and has its code compiled besides. */
function isLight(task: WorkerTask): boolean {
  if (task.task === 'import')
    return (findImport(database(), task.importId)?.bytesTotal ?? 0) < SMALL_FILE_BYTES;
  // Pages and feeds come from outside: what they do to a thread ends with it.
  return !['feed', 'look', 'unpack', 'read-results', 'rival', 'arrive', 'archive'].includes(task.task);
}

/** Does a task in a thread of its own. Where it takes longer than a limit it is ended, and that is an error. */
function runWorker(task: WorkerTask, limitMs?: number): Promise<unknown> {
  return new Promise((resolve, reject) => {
    const worker = takeWorker();
    worker.postMessage(task, task.task === 'archive' ? [task.port] : []);
    const limit =
      limitMs !== undefined &&
      setTimeout(() => {
        reject(new TookTooLong(`It took longer than ${limitMs / 1000} seconds.`));
        void worker.terminate();
      }, limitMs);
    const over = () => {
      if (limit) clearTimeout(limit);
      worker.removeAllListeners();
    };
    worker.on('message', (answer: WorkerMessage) => {
      if ('aboutToCount' in answer)
        return void holdFigures(answer.aboutToCount).then(() => worker.postMessage(GO_ON));
      over();
      if (isLight(task)) keepSpare(worker);
      else void worker.terminate().then(readyWorker);
      if ('refused' in answer) reject(new FileRefused(answer.refused, answer.toState));
      else resolve(answer.result);
    });
    const failed = (error: Error) => {
      over();
      if (!isEnding()) readyWorker();
      reject(error);
    };
    worker.once('error', (error: Error & { code?: string }) =>
      failed(error.code === 'ERR_WORKER_OUT_OF_MEMORY' ? new FileRefused(TOO_MUCH_MEMORY) : error),
    );
    worker.once('exit', (code) =>
      failed(new Error(`The worker ended with code ${code} before it answered.`)),
    );
  });
}

const TOO_MUCH_MEMORY =
  'Reading the file takes more memory than there is for it; divide it, or send it as CSV.';

class TookTooLong extends Error {}

/** Fetches a page of a site and keeps what it says, or why it could not be fetched. */
export async function lookInWorker(siteId: number, page: PageRef): Promise<Looked> {
  try {
    return (await runWorker({ task: 'look', siteId, page }, LONGEST_LOOK_MS)) as Looked;
  } catch (error) {
    if (!(error instanceof TookTooLong)) throw error;
    const failure = 'The page is nested so deep or so large that it could not be read in time.';
    await keepFailure(database(), siteId, page.id, failure);
    return { failure };
  }
}

const LONGEST_READ_MS = 15_000;

/** Reads results from what was pasted or chosen, in a worker. */
export async function readResultsInWorker(bytes: Uint8Array): Promise<Read> {
  try {
    return (await runWorker({ task: 'read-results', bytes }, LONGEST_READ_MS)) as Read;
  } catch (error) {
    if (!(error instanceof TookTooLong)) throw error;
    return { results: [], asked: [], problem: 'It could not be read in time; paste only the results.' };
  }
}

/** Fetches the pages of the first results but one's own, one after the other, and keeps what they say. */
export async function lookAtRivals(
  { id, siteId, results }: ResultPage,
  isOwn: (address: string) => boolean,
): Promise<void> {
  for (const { rank, address } of results.slice(0, MOST_RIVALS))
    if (!isOwn(address))
      await runWorker({ task: 'rival', siteId, resultPageId: id, rank }, LONGEST_LOOK_MS).catch(
        (error: unknown) => {
          if (!(error instanceof TookTooLong)) throw error;
          return keepRival(database(), id, rank, { failure: 'It could not be read in time.' });
        },
      );
}

const MOST_RIVALS = 10;

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

/** Looks through an uploaded file as a sheet of changes. Throws FileRefused where it is no table. */
export function inspectLedgerUpload(
  importId: number,
  siteId: number,
  settings: IntakeSettings,
): Promise<LedgerInspection> {
  return runWorker({ task: 'inspect-ledger', importId, siteId, settings }) as Promise<LedgerInspection>;
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

/** Unpacks the tables of an archive; null where it is a spreadsheet, which is one file. Throws FileRefused. */
export function unpackInWorker(file: string, bytes: number): Promise<Unpacking | null> {
  return runWorker({ task: 'unpack', file, bytes }) as Promise<Unpacking | null>;
}

/** Sheets of formulas as the bytes of a spreadsheet: hundreds of thousands of cells take a second or two. */
export function workbookInWorker(sheets: readonly WorkSheet[]): Promise<Uint8Array<ArrayBuffer>> {
  return runWorker({ task: 'workbook', sheets }) as Promise<Uint8Array<ArrayBuffer>>;
}

/** All of a site as an archive, made while it is sent. */
export function archiveFromWorker(siteId: number): ReadableStream<Uint8Array> {
  return archiveStream((port) => runWorker({ task: 'archive', siteId, port }));
}

/** Undoes an import that is done, or lets one count again. Resolves to whether it did. */
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
  /** The feeds that are being fetched. */
  __tallyFeeds?: Set<number>;
  __tallyLooks?: Promise<void> | null;
  __tallySpare?: Worker | null;
  __tallyFolding?: Promise<void> | null;
  __tallyFoldedAt?: number;
  __tallyBackup?: Promise<void> | null;
  __tallyPurge?: Promise<void> | null;
  __tallyBackupFailed?: { readonly at: number; readonly why: string } | null;
  __tallyClock?: NodeJS.Timeout;
};

/** Sees to it that waiting imports are worked off, one at a time. Returns at once. */
export function startRunner(): void {
  let failed = false;
  shared.__tallyRunner ??= workOff()
    .catch((error: unknown) => {
      failed = true;
      console.error('Imports stopped:', error);
    })
    .finally(() => {
      shared.__tallyRunner = null;
      if (isEnding()) return;
      if (failed) {
        // A full disk, for one: it goes on by itself once that is mended, and does not spin until then.
        setTimeout(startRunner, TRY_AGAIN_MS).unref();
        return;
      }
      // One may have come in between the last look and this line.
      if (nextQueued(database()) || nextSiteImport(database()) !== null) startRunner();
    });
}

const OWN_FAULT =
  'Something went wrong in the program itself, and nothing was stored. The log of the server says more.';

async function workOff(): Promise<void> {
  const db = database();
  for (let next = nextQueued(db); next; next = nextQueued(db)) {
    try {
      await runWorker({ task: 'import', importId: next.id });
    } catch (error) {
      if (isEnding()) return;
      console.error(`Import ${next.id} failed:`, error);
    }
    const state = findImport(db, next.id)?.state;
    if (state === 'queued' || state === 'running') {
      // Rows that were stored before it went wrong count for nothing, and are taken away.
      await failImport(db, next.id, OWN_FAULT, { read: next.rowsRead, refused: 0, leftOut: 0 }, []);
    }
    await dropSpooled(next.id);
  }
  for (let id = nextSiteImport(db); id !== null; id = nextSiteImport(db)) {
    try {
      await runWorker({ task: 'arrive', siteImportId: id });
    } catch (error) {
      if (isEnding()) return;
      console.error(`The archive ${id} of a site failed:`, error);
    }
    if (unfinishedSiteImports(db).includes(id)) {
      await updateSiteImport(db, id, { state: 'failed', failure: OWN_FAULT, finishedAt: timestamp() });
      await clearUnfinishedSites(db);
    }
    await rm(archiveSpool(id), { force: true });
  }
}

/** Feeds that are fetched at the same time: a host that does not answer holds up only its own. */
const FEEDS_AT_ONCE = 6;

/** Sees to it that feeds whose turn it is are fetched, some at a time. Returns at once. */
export function startFeeds(): void {
  const fetching = (shared.__tallyFeeds ??= new Set());
  if (isEnding()) return;
  for (const feed of dueFeeds(database(), Date.now())) {
    if (fetching.size >= FEEDS_AT_ONCE) return;
    if (fetching.has(feed.id)) continue;
    fetching.add(feed.id);
    void fetchOne(feed).finally(() => {
      fetching.delete(feed.id);
      if (isEnding()) return;
      startRunner();
      startFeeds();
    });
  }
}

async function fetchOne({ id, address }: FeedRow): Promise<void> {
  try {
    await runWorker({ task: 'feed', feedId: id, address });
  } catch (error) {
    if (isEnding()) return;
    console.error(`Feed ${id} failed:`, error);
    await updateFeed(database(), id, { state: 'idle', lastTriedAt: timestamp() });
  }
}

/** Sees to it that watched pages whose turn it is are fetched, one at a time. Returns at once. */
export function startLooks(): void {
  shared.__tallyLooks ??= lookAtDue()
    .catch((error: unknown) => console.error('Watching pages stopped:', error))
    .finally(() => {
      shared.__tallyLooks = null;
    });
}

async function lookAtDue(): Promise<void> {
  const db = database();
  for (let due = dueLook(db, Date.now()); due; due = dueLook(db, Date.now())) {
    try {
      await lookInWorker(due.siteId, due.page);
    } catch (error) {
      if (isEnding()) return;
      console.error(`Looking at ${due.page.address} failed:`, error);
      await keepFailure(db, due.siteId, due.page.id, 'Something went wrong in the program itself.');
    }
    await sleep(PAUSE_BETWEEN_LOOKS_MS);
  }
}

const FOLD_EVERY_MS = 24 * 3600 * 1000;

/** Sees to it that once a day old layers of figures are folded together. Returns at once. */
export function startFolding(): void {
  const last = shared.__tallyFoldedAt ?? 0;
  // Files that wait come first; they would replace what is folded.
  if (shared.__tallyFolding || Math.abs(Date.now() - last) < FOLD_EVERY_MS || nextQueued(database())) return;
  shared.__tallyFoldedAt = Date.now();
  shared.__tallyFolding = runWorker({ task: 'fold' })
    .catch((error: unknown) => isEnding() || console.error('Folding old figures stopped:', error))
    .then(() => {
      shared.__tallyFolding = null;
    });
}

/** Sees to it that sites which were deleted long enough ago go. Returns at once. */
export function startPurge(): void {
  if (shared.__tallyPurge || isEnding() || sitesToPurge(database()).length === 0) return;
  shared.__tallyPurge = runWorker({ task: 'purge' })
    .catch((error: unknown) => isEnding() || console.error('Removing a deleted site stopped:', error))
    .then(() => {
      shared.__tallyPurge = null;
    });
}

/** After a backup that failed, so long until it is tried again. */
const BACKUP_AGAIN_MS = 3600 * 1000;

/** Sees to it that there is a backup of today. Returns at once. */
export function startBackup(): void {
  const day = dayOfInstant(timestamp());
  const failed = shared.__tallyBackupFailed;
  if (shared.__tallyBackup || isEnding() || backupFolder() === null) return;
  if (failed && Math.abs(Date.now() - failed.at) < BACKUP_AGAIN_MS) return;
  // One of a day to come was made while the clock was wrong, and stands for no other.
  if (dailyBackups().some((one) => one.day === day)) return;
  shared.__tallyBackup = runWorker({ task: 'backup', day })
    .then(() => {
      shared.__tallyBackupFailed = null;
    })
    .catch((error: unknown) => {
      if (isEnding()) return;
      console.error('The daily backup failed:', error);
      shared.__tallyBackupFailed = {
        at: Date.now(),
        why: error instanceof Error ? error.message : String(error),
      };
    })
    .finally(() => {
      shared.__tallyBackup = null;
    });
}

/** Why the last daily backup failed; null where it did not. */
export function backupFailure(): string | null {
  return shared.__tallyBackupFailed?.why ?? null;
}

/** At the start of the server: takes up what an earlier process left and clears away old drafts. */
export async function resumeAtStart(): Promise<void> {
  const db = database();
  await clearUnfinished(db);
  await clearUnfinishedSites(db);
  await dropOldDrafts(db, new Date(Date.now() - DRAFTS_KEPT_MS).toISOString());
  await dropLeftovers(db);
  readyWorker();
  startRunner();
  startFeeds();
  startLooks();
  startFolding();
  startBackup();
  // What is fetched daily comes round while the server runs.
  shared.__tallyClock ??= setInterval(() => {
    startFeeds();
    startLooks();
    startFolding();
    startBackup();
    startPurge();
  }, TURNS_LOOKED_AT_MS).unref();
}
