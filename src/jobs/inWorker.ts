/* What is done off the request thread while somebody waits for it. */

import type { AddressRules } from '../core/model/addressRules';
import { addDays, type Day } from '../core/calendar/day';
import type { Inspection, Stated } from '../core/intake/inspection';
import type { IntakeSettings } from '../core/intake/settings';
import type { LedgerInspection } from '../core/intake/ledgerInspection';
import type { PageRef } from '../core/model/change';
import type { Site } from '../core/model/site';
import { database } from '../store/database';
import { today } from '../store/clock';
import { keepFailure } from '../store/evidence/snapshots';
import type { WorkSheet } from '../core/working/workSheet';
import type { ResultPage } from '../core/wording/resultPage';
import type { Read } from '../services/wording/readResults';
import { keepRival } from '../store/wording/rivals';
import type { NamedSettings } from './checkFile';
import type { Unpacking } from './intake/unpacking';
import type { Looked } from './lookAtPage';
import { archiveStream } from './siteArchive';
import { runWorker, TookTooLong } from './workers';

/** Fetching and understanding one page, hostile ones included. */
const LONGEST_LOOK_MS = 60_000;

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

/**
 * Fetches the pages of the first results except ours, one after another, and keeps their content.
 */
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

/**
 * Unpacks the tables of an archive; null for a spreadsheet, which is one file. Throws FileRefused.
 */
export function unpackInWorker(file: string, bytes: number): Promise<Unpacking | null> {
  return runWorker({ task: 'unpack', file, bytes }) as Promise<Unpacking | null>;
}

/** A spreadsheet with formulas, as bytes: hundreds of thousands of cells take a second or two. */
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

/** Assigns the URLs of a site to pages by other rules, or (null) by those before the last edit. */
export async function rekeyInWorker(siteId: number, rules: AddressRules | null): Promise<void> {
  await runWorker({ task: 'rules', siteId, rules });
}

/** Joins an address to a page by hand, or takes that back. */
export async function joinInWorker(siteId: number, addressId: number, page: string | null): Promise<void> {
  await runWorker({ task: 'join', siteId, addressId, page });
}
