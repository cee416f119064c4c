import path from 'node:path';
import { rename } from 'node:fs/promises';
import { MessageChannel, type MessagePort } from 'node:worker_threads';
import type { Readable } from 'node:stream';
import { arriveSite } from '../store/archive/arrive';
import { archiveFiles } from '../store/archive/contents';
import { addSiteImport, findSiteImport, updateSiteImport } from '../store/archive/siteImports';
import { ArchiveReader, ArchiveRefused, archiveZip } from '../store/archive/zip';
import { connect, type Db, beginReading, disconnect } from '../store/database';
import { forgetProgress, noteProgress } from '../store/figures/importProgress';
import { databaseFile, dataDir } from '../store/paths';
import type { ReceivedFile } from '../store/received';
import { timestamp } from '../store/write';

/*
 * All of a site out, and in again. Both may take a while: they are done in a worker.
 */

const PROGRESS_EVERY_MS = 250;

/** Where an archive waits until it is read. */
export function archiveSpool(siteImportId: number, dir = dataDir()): string {
  return path.join(dir, 'uploads', `site-${siteImportId}.zip`);
}

/**
 * Keeps an uploaded archive for import. Checks at once that it is an archive, and that its site
 * isn’t here already. Throws ArchiveRefused.
 */
export async function keepArchive(db: Db, { file, bytes }: ReceivedFile, fileName: string): Promise<number> {
  const archive = await ArchiveReader.open(file);
  let rows: number;
  try {
    await archive.refuseKnownSite(db);
    rows = archive.manifest.files.reduce((sum, one) => sum + one.rows, 0);
  } finally {
    archive.close();
  }
  // The file has its place before anybody looks for it.
  const waiting = `${file}.waiting`;
  await rename(file, waiting);
  const id = await addSiteImport(db, fileName.slice(0, 200), bytes, rows);
  await rename(waiting, archiveSpool(id));
  return id;
}

/** Reads a kept archive. What becomes of it stands with its record. */
export async function readKeptArchive(db: Db, siteImportId: number): Promise<void> {
  if (!findSiteImport(db, siteImportId)) return;
  forgetProgress(db, `site-${siteImportId}`);
  await updateSiteImport(db, siteImportId, { state: 'running' });
  let told = 0;
  const progress = (rowsRead: number) => {
    if (Date.now() - told < PROGRESS_EVERY_MS) return;
    told = Date.now();
    try {
      noteProgress(db, `site-${siteImportId}`, { rowsRead });
    } catch {
      // The disk may be full just now; the next report will do.
    }
  };
  try {
    const archive = await ArchiveReader.open(archiveSpool(siteImportId));
    try {
      const siteId = await arriveSite(db, archive, progress);
      const rowsRead = findSiteImport(db, siteImportId)!.rowsTotal ?? 0;
      await updateSiteImport(db, siteImportId, { state: 'done', siteId, rowsRead, finishedAt: timestamp() });
    } finally {
      archive.close();
    }
  } catch (error) {
    if (!(error instanceof ArchiveRefused)) throw error;
    const { rowsRead } = findSiteImport(db, siteImportId)!;
    await updateSiteImport(db, siteImportId, {
      ...{ state: 'failed', failure: error.message, rowsRead, finishedAt: timestamp() },
    });
  } finally {
    forgetProgress(db, `site-${siteImportId}`);
  }
}

/** The archive of a site as of one moment; the connection closes once all of it was read. */
export function archiveOf(siteId: number, progress?: (rows: number) => void): Readable {
  const db = connect(databaseFile());
  // One transaction: what others write meanwhile is not seen.
  beginReading(db);
  const zip = archiveZip(archiveFiles(db, siteId), timestamp(), progress);
  return zip.once('close', () => disconnect(db));
}

/**
 * Messages between the reader of an archive and the worker that makes it: a request for more, and a
 * piece; null is the end.
 */
export type ArchivePiece =
  { readonly bytes: Uint8Array } | { readonly end: true } | { readonly failed: true };

/** Makes a site's archive in this thread and hands it on, a piece for each wish. */
export async function sendArchive(siteId: number, port: MessagePort): Promise<void> {
  const zip = archiveOf(siteId);
  const wished = wishes(port);
  try {
    for await (const chunk of zip as AsyncIterable<Buffer>) {
      if (!(await wished())) {
        zip.destroy();
        return;
      }
      port.postMessage({ bytes: new Uint8Array(chunk) } satisfies ArchivePiece);
    }
    await wished();
    port.postMessage({ end: true } satisfies ArchivePiece);
  } catch (error) {
    port.postMessage({ failed: true } satisfies ArchivePiece);
    throw error;
  } finally {
    port.close();
  }
}

/** Waits for the next wish; false once nobody wishes for anything any more. */
function wishes(port: MessagePort): () => Promise<boolean> {
  let waiting = 0;
  let gone = false;
  let wake = () => {};
  port.on('message', () => {
    waiting++;
    wake();
  });
  port.on('close', () => {
    gone = true;
    wake();
  });
  return async () => {
    while (waiting === 0 && !gone) await new Promise<void>((resolve) => (wake = resolve));
    waiting--;
    return !gone;
  };
}

/** An archive as a stream for an answer; `begin` has a worker make it and send it over the port. */
export function archiveStream(begin: (port: MessagePort) => Promise<unknown>): ReadableStream<Uint8Array> {
  const { port1, port2 } = new MessageChannel();
  return new ReadableStream<Uint8Array>(
    {
      start(controller) {
        port1.on('message', (piece: ArchivePiece) => {
          if ('bytes' in piece) controller.enqueue(piece.bytes);
          else if ('end' in piece) controller.close();
        });
        begin(port2).catch((error: unknown) => controller.error(error));
      },
      pull() {
        port1.postMessage('more');
      },
      cancel() {
        port1.close();
      },
    },
    { highWaterMark: 4 },
  );
}
