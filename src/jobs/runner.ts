/* What goes on by itself: waiting imports, feeds, looks at watched pages, folding, backups. */

import { rm } from 'node:fs/promises';
import { setTimeout as sleep } from 'node:timers/promises';
import { dayOfInstant } from '../core/backup/retention';
import { backupFolder, dailyBackups } from '../store/dailyBackups';
import { database } from '../store/database';
import { expiredDeletions } from '../store/archive/purgeDeleted';
import { clearUnfinished, failImport } from '../store/figures/arrival';
import { dropOldDrafts, findImport, nextQueued } from '../store/figures/imports';
import { dueFeeds, updateFeed, type FeedRow } from '../store/figures/feeds';
import { newestChange } from '../store/ledger/findChanges';
import { sitesToPurge } from '../store/sites';
import { dueLook, keepFailure } from '../store/evidence/snapshots';
import {
  clearUnfinishedSites,
  nextSiteImport,
  unfinishedSiteImports,
  updateSiteImport,
} from '../store/archive/siteImports';
import { timestamp } from '../store/write';
import { saveVerdicts } from './questions/ask';
import { archiveSpool } from './siteArchive';
import { dropLeftovers, dropSpooled } from './spool';
import { isEnding } from './thread';
import { lookInWorker } from './inWorker';
import { readyWorker, runWorker } from './workers';

const TURNS_LOOKED_AT_MS = 60_000;
const TRY_AGAIN_MS = 5000;
/** Between two pages of watched sites, so that no host is pressed. */
const PAUSE_BETWEEN_LOOKS_MS = 1000;
const DRAFTS_KEPT_MS = 7 * 24 * 3600 * 1000;

// One runner a process, wherever this module is loaded from.
const shared = globalThis as {
  __tallyRunner?: Promise<void> | null;
  /** The feeds that are being fetched. */
  __tallyFeeds?: Set<number>;
  __tallyLooks?: Promise<void> | null;
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
        // A full disk, for example: work resumes once there is room, without spinning until then.
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
    if (state === 'done') settleVerdicts(next.siteId);
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

/** Sees to it that verdicts are saved that the new figures complete. Returns at once. */
function settleVerdicts(siteId: number): void {
  if (newestChange(database(), siteId) === null) return;
  saveVerdicts(siteId).catch(
    (error: unknown) => isEnding() || console.error(`The verdicts of site ${siteId} weren't saved:`, error),
  );
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
  if (shared.__tallyPurge || isEnding()) return;
  if (sitesToPurge(database()).length + expiredDeletions(database()).length === 0) return;
  shared.__tallyPurge = runWorker({ task: 'purge' })
    .catch((error: unknown) => isEnding() || console.error('Removing what was deleted stopped:', error))
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
