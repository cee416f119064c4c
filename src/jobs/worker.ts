import { rm } from 'node:fs/promises';
import { parentPort, type MessagePort } from 'node:worker_threads';
import type { AddressRules } from '../core/model/addressRules';
import type { Day } from '../core/calendar/day';
import type { Stated } from '../core/intake/inspection';
import type { IntakeSettings } from '../core/intake/settings';
import type { PageRef } from '../core/model/change';
import type { Site } from '../core/model/site';
import { today } from '../store/clock';
import { connect, checkpoint, disconnect } from '../store/database';
import { makeDailyBackup } from '../store/dailyBackups';
import { databaseFile } from '../store/paths';
import { joinAddress, saveRules, undoRules } from '../store/addresses/rekey';
import { compactLayers } from '../store/figures/fold';
import { purgeDeleted } from '../store/archive/purgeDeleted';
import { purgeSite } from '../store/archive/purge';
import { dropOldAuditEntries } from '../store/access/auditEntries';
import { thinSnapshots } from '../store/evidence/thin';
import { findSite, listSites, sitesToPurge } from '../store/sites';
import { write } from '../store/write';
import { redoImport, undoImport } from '../store/figures/undo';
import { checkFile, type NamedSettings } from './checkFile';
import { fetchFeed } from './fetchFeed';
import { importFile } from './importFile';
import { inspectFile } from './inspectFile';
import { isSpreadsheet, unpackArchive } from './intake/archive';
import { sheetsAsCsv } from './intake/spreadsheet';
import type { FileRefused } from './intake/fileRefused';
import { rememberedFor } from './intake/settings';
import { inspectLedger } from './importLedger';
import { lookAtPage } from './lookAtPage';
import { inBackground } from './priority';
import { readResults } from '../services/wording/readResults';
import type { WorkSheet } from '../core/working/workSheet';
import { workingWorkbook } from '../services/report/workingWorkbook';
import { findResultPage } from '../store/wording/resultPages';
import { reachFeed, reachPages, reachRivals } from './outsideWorld';
import { lookAtRival } from './rivals';
import { readKeptArchive, sendArchive } from './siteArchive';
import { spoolFile } from './spool';
import { GO_ON } from './thread';

/** What a worker is given: one task at a time. */
export type WorkerTask =
  | { readonly task: 'import'; readonly importId: number }
  | { readonly task: 'feed'; readonly feedId: number; readonly address: string }
  | {
      readonly task: 'inspect';
      readonly importId: number;
      readonly site: Pick<Site, 'id' | 'address'>;
      readonly newestDay: Day;
      readonly stated: Stated;
    }
  | {
      readonly task: 'inspect-ledger';
      readonly importId: number;
      readonly siteId: number;
      readonly settings: IntakeSettings;
    }
  | {
      readonly task: 'check';
      readonly importId: number;
      readonly siteId: number;
      readonly takenOn: Day;
      readonly wish: NamedSettings;
    }
  | { readonly task: 'fold' }
  /** Removes what was deleted long enough ago. */
  | { readonly task: 'purge' }
  /** Makes the backup of a day. */
  | { readonly task: 'backup'; readonly day: Day }
  /** Reads the archive of a site that was sent, or makes one and sends it over the port. */
  | { readonly task: 'arrive'; readonly siteImportId: number }
  | { readonly task: 'archive'; readonly siteId: number; readonly port: MessagePort }
  /** Writes sheets of formulas as a spreadsheet. */
  | { readonly task: 'workbook'; readonly sheets: readonly WorkSheet[] }
  | { readonly task: 'unpack'; readonly file: string; readonly bytes: number }
  | { readonly task: 'look'; readonly siteId: number; readonly page: PageRef }
  /** Reads results from what was pasted or chosen. */
  | { readonly task: 'read-results'; readonly bytes: Uint8Array }
  /** Fetches the page of a result. */
  | { readonly task: 'rival'; readonly siteId: number; readonly resultPageId: number; readonly rank: number }
  | { readonly task: 'undo' | 'redo'; readonly siteId: number; readonly importId: number }
  /** Without rules, those before the last edit. */
  | { readonly task: 'rules'; readonly siteId: number; readonly rules: AddressRules | null }
  | {
      readonly task: 'join';
      readonly siteId: number;
      readonly addressId: number;
      readonly page: string | null;
    };

/** What it answers: the result, or the sentence of an error that a person caused. */
export type WorkerAnswer =
  | { readonly result: unknown }
  | {
      readonly refused: string;
      readonly toState: FileRefused['toState'];
    };

/**
 * Messages of a worker: its answer, or that figures of a site are about to count, which waits for
 * GO_ON.
 */
export type WorkerMessage = WorkerAnswer | { readonly aboutToCount: number };

/** Tasks that are rerun after a crash: their files are kept until they are done. */
const CAN_BE_REPEATED: ReadonlySet<WorkerTask['task']> = new Set([
  'import',
  'feed',
  'fold',
  'inspect',
  'check',
  'arrive',
]);

/** Tasks for which nobody waits before a screen. */
const IN_BACKGROUND: ReadonlySet<WorkerTask['task']> = new Set([
  ...(['import', 'feed', 'fold', 'purge', 'backup', 'arrive', 'archive'] as const),
]);

async function run(task: WorkerTask): Promise<unknown> {
  if (task.task === 'backup') return makeDailyBackup(task.day);
  const db = connect(databaseFile(), { canBeRepeated: CAN_BE_REPEATED.has(task.task) });
  try {
    if (task.task === 'inspect') {
      const { site, newestDay, stated } = task;
      return await inspectFile(spoolFile(task.importId), site, newestDay, stated, (head) =>
        rememberedFor(db, site.id, head),
      );
    }
    if (task.task === 'import') {
      await importFile(db, task.importId, spoolFile(task.importId), { beforeCounting });
      // All of it has to be on the disk before its file is dropped; a checkpoint sees to that.
      checkpoint(db);
      return null;
    }
    if (task.task === 'fold') {
      for (const site of listSites(db)) {
        await compactLayers(db, site, Date.now());
        await thinSnapshots(db, site.id, today(site.timeZone));
      }
      await write(db, () => dropOldAuditEntries(db));
      return null;
    }
    if (task.task === 'purge') {
      for (const id of sitesToPurge(db)) await purgeSite(db, id);
      await purgeDeleted(db);
      return null;
    }
    if (task.task === 'arrive') {
      await readKeptArchive(db, task.siteImportId);
      checkpoint(db);
      return null;
    }
    if (task.task === 'archive') {
      await sendArchive(task.siteId, task.port);
      return null;
    }
    if (task.task === 'unpack') {
      if (await isSpreadsheet(task.file)) {
        const sheets = await sheetsAsCsv(task.file, (number) => `${task.file}.${number}.part`);
        if (sheets) await rm(task.file, { force: true });
        return sheets;
      }
      try {
        return await unpackArchive(task.file, task.bytes, (number) => `${task.file}.${number}.part`);
      } finally {
        await rm(task.file, { force: true });
      }
    }
    if (task.task === 'workbook') return await workingWorkbook(task.sheets);
    if (task.task === 'read-results') return await readResults(task.bytes);
    if (task.task === 'feed') {
      await fetchFeed(db, task.feedId, reachFeed(task.address));
      return null;
    }
    const site = findSite(db, task.siteId);
    if (!site) return false;
    switch (task.task) {
      case 'check':
        return await checkFile(db, site, spoolFile(task.importId), task.takenOn, task.wish);
      case 'inspect-ledger':
        return await inspectLedger(db, site, spoolFile(task.importId), today(site.timeZone), task.settings);
      case 'look':
        return await lookAtPage(db, site, task.page, reachPages(db, site), today(site.timeZone));
      case 'rival': {
        const page = findResultPage(db, task.resultPageId);
        if (page) await lookAtRival(db, site, page, task.rank, reachRivals(site));
        return null;
      }
      case 'undo':
        await beforeCounting(site.id);
        return await undoImport(db, site, task.importId);
      case 'redo':
        await beforeCounting(site.id);
        return await redoImport(db, site, task.importId);
      case 'join':
        return await joinAddress(db, site, task.addressId, task.page);
      case 'rules':
        return await (task.rules ? saveRules(db, site, task.rules) : undoRules(db, site));
    }
  } finally {
    disconnect(db);
  }
}

/** Runs a task. The thread is started ahead of it, and may run several in turn. */
function begin(task: WorkerTask): void {
  const work = () => run(task);
  (IN_BACKGROUND.has(task.task) ? inBackground(work) : work()).then(
    (result) => {
      parentPort?.postMessage({ result } satisfies WorkerAnswer);
    },
    (error: unknown) => {
      // Other errors are left to end the worker, which the one who started it sees.
      if (!(error instanceof Error) || error.name !== 'FileRefused') throw error;
      const { message, toState } = error as FileRefused;
      parentPort?.postMessage({ refused: message, toState } satisfies WorkerAnswer);
    },
  );
}

/** Those who wait to be told that they may go on. */
const waiting: (() => void)[] = [];

/**
 * Announces that new figures are about to count, and waits until those who show the old ones are
 * ready.
 */
function beforeCounting(siteId: number): Promise<void> {
  return new Promise((resolve) => {
    waiting.push(resolve);
    parentPort?.postMessage({ aboutToCount: siteId } satisfies WorkerMessage);
  });
}

parentPort?.on('message', (message: WorkerTask | typeof GO_ON) => {
  if (message === GO_ON) waiting.shift()?.();
  else begin(message);
});
