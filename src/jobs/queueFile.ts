import path from 'node:path';
import { Readable } from 'node:stream';
import type { ReadableStream as NodeStream } from 'node:stream/web';
import { wrappingOf } from '../core/intake/format';
import type { IntakeSettings } from '../core/intake/settings';
import { ledgerMappingOf } from '../core/intake/ledgerRows';
import type { Site } from '../core/model/site';
import { today } from '../store/clock';
import type { Db } from '../store/database';
import { addImport, confirmDraft, dropDraft, findImport } from '../store/figures/imports';
import { takeReceived, type ReceivedFile } from '../store/received';
import { findSite, siteToday } from '../store/sites';
import { checkBeginning, type NamedSettings } from './checkFile';
import { openQuestion } from './importLedger';
import type { LeftOut } from './intake/unpacking';
import { FileRefused } from './intake/fileRefused';
import { firstBytes } from './intake/firstBytes';
import { checkInWorker, inspectLedgerUpload, unpackInWorker } from './inWorker';
import { dropSpooled, keepReceived, receive, spoolFile } from './spool';

/** The drafts of a received file: one, or one per table of an archive; and what was left out. */
export type Drafts = { readonly ids: readonly number[]; readonly leftOut: readonly LeftOut[] };

/** The file of a request: received before, or read from its body. Null if there is none. */
export async function fileOf(request: Request): Promise<ReceivedFile | null> {
  const received = takeReceived(request.headers);
  if (received) return received;
  return request.body && receive(Readable.fromWeb(request.body as NodeStream<Uint8Array>));
}

/**
 * Records a received figures file as a draft; the tables of an archive (ZIP) are a draft
 * each. Throws FileRefused where nothing of an archive can be read.
 */
export async function keepDrafts(
  db: Db,
  siteId: number,
  received: ReceivedFile,
  fileName: string,
): Promise<Drafts> {
  const add = (name: string, bytes: number) =>
    addImport(db, {
      siteId,
      fileName: name.slice(0, 200),
      bytesTotal: bytes,
      takenOn: siteToday(db, siteId),
      state: 'draft',
    });
  const isZip = wrappingOf(await firstBytes(received.file, 4)) === 'zip';
  const unpacked = isZip ? await unpackInWorker(received.file, received.bytes) : null;
  if (!unpacked) {
    const id = await add(fileName, received.bytes);
    await keepReceived(received.file, id);
    return { ids: [id], leftOut: [] };
  }
  const ids: number[] = [];
  for (const { name, file, bytes } of unpacked.files) {
    const id = await add(`${path.basename(fileName, '.zip')}: ${name}`, bytes);
    await keepReceived(file, id);
    ids.push(id);
  }
  return { ids, leftOut: unpacked.leftOut };
}

/**
 * Puts a draft in the queue if it can be taken as it is; if not, nothing is kept of it.
 * Throws FileRefused, with what is to be stated where that would help.
 */
export async function queueDraft(db: Db, siteId: number, id: number, wish: NamedSettings): Promise<void> {
  try {
    const site = findSite(db, siteId)!;
    const settings =
      (await checkBeginning(db, site, spoolFile(id), today(site.timeZone), wish)) ??
      (await checkInWorker(id, siteId, today(site.timeZone), wish));
    await confirmDraft(db, id, settings);
  } catch (error) {
    if (await dropDraft(db, id)) await dropSpooled(id);
    throw error;
  }
}

/** Drops drafts that are not wanted after all, with their files. */
export async function dropDrafts(db: Db, ids: readonly number[]): Promise<void> {
  for (const id of ids) if (await dropDraft(db, id)) await dropSpooled(id);
}

/**
 * Queues each draft that can be imported as it is. Others are named with the reason. Throws
 * FileRefused if none can, like a single file.
 */
export async function queueDrafts(
  db: Db,
  siteId: number,
  { ids, leftOut }: Drafts,
  wish: NamedSettings,
): Promise<Drafts> {
  const queued: number[] = [];
  const refused: LeftOut[] = [];
  let last: FileRefused | null = null;
  for (const id of ids) {
    const name = findImport(db, id)?.fileName ?? '';
    try {
      await queueDraft(db, siteId, id, wish);
      queued.push(id);
    } catch (error) {
      if (!(error instanceof FileRefused)) throw error;
      last = error;
      refused.push({ name, reason: error.message });
    }
  }
  const all = [...leftOut, ...refused];
  if (queued.length > 0) return { ids: queued, leftOut: all };
  if (last && all.length === 1) throw last;
  throw new FileRefused(all.map(({ name, reason }) => `${name}: ${reason}`).join(' '), last?.toState);
}

/** What a script states about a sheet of changes; columns by name or by index from 0. */
export type LedgerSettings = Pick<IntakeSettings, 'dateOrder'> & {
  readonly mapping?: Readonly<Record<string, string | number>> | undefined;
  readonly join?: boolean | undefined;
};

/**
 * Queues the sheet of changes of a request if it can be imported as it is, and returns its import
 * id; null without a file. Throws FileRefused, with what has to be stated if that would help.
 */
export async function queueLedger(
  db: Db,
  site: Site,
  request: Request,
  fileName: string,
  wish: LedgerSettings,
): Promise<number | null> {
  const received = await fileOf(request);
  if (!received) return null;
  const id = await addImport(db, {
    ...{ siteId: site.id, fileName: fileName.slice(0, 200), bytesTotal: received.bytes },
    ...{ takenOn: today(site.timeZone), state: 'draft' },
  });
  await keepReceived(received.file, id);
  try {
    const { mapping: names, join, dateOrder } = wish;
    const settings: IntakeSettings = { dateOrder, ledger: { join } };
    let seen = await inspectLedgerUpload(id, site.id, settings);
    if (names) {
      const mapping = ledgerMappingOf(names, seen.head);
      if (typeof mapping === 'string') throw new FileRefused(mapping, 'mapping');
      settings.ledger = { join, mapping };
      seen = await inspectLedgerUpload(id, site.id, settings);
    }
    const open = openQuestion(seen, seen.head, seen.rows);
    if (open) throw open;
    await confirmDraft(db, id, settings, 'changes');
    return id;
  } catch (error) {
    if (await dropDraft(db, id)) await dropSpooled(id);
    throw error;
  }
}
