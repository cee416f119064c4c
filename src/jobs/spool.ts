import { namedError } from '../core/errors';
import { createWriteStream } from 'node:fs';
import { mkdir, readdir, rename, rm, stat } from 'node:fs/promises';
import path from 'node:path';
import { Transform, type Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { randomUUID } from 'node:crypto';
import { madeText, openedMark } from './intake/asText';
import type { Db } from '../store/database';
import { unfinishedSiteImports } from '../store/archive/siteImports';
import { dataDir } from '../store/paths';
import { fetchingFeeds } from '../store/figures/feeds';
import { unfinishedIds } from '../store/figures/imports';
import { MAX_FILE_BYTES, TOO_LARGE, type ReceivedFile } from '../store/received';

/** A file that was sent is larger than is taken. */
export class FileTooLarge extends namedError('FileTooLarge') {}

/** Where the bytes of an import wait until it is done. */
export function spoolFile(importId: number, dir = dataDir()): string {
  return path.join(dir, 'uploads', `${importId}.csv`);
}

/**
 * Writes a stream to a new file in the spool, and returns its path and size. Throws FileTooLarge.
 */
export async function receive(body: Readable, dir = dataDir()): Promise<ReceivedFile> {
  const file = path.join(dir, 'uploads', `${randomUUID()}.part`);
  await mkdir(path.dirname(file), { recursive: true });
  let bytes = 0;
  const bounded = new Transform({
    transform(piece: Buffer, _encoding, done) {
      bytes += piece.length;
      if (bytes > MAX_FILE_BYTES) done(new FileTooLarge(TOO_LARGE));
      else done(null, piece);
    },
  });
  try {
    await pipeline(body, bounded, createWriteStream(file));
  } catch (error) {
    await rm(file, { force: true });
    throw error;
  }
  return { file, bytes: (await stat(file)).size };
}

/** Gives a received file its place under the id of its import. */
export async function keepReceived(received: string, importId: number, dir = dataDir()): Promise<void> {
  await rename(received, spoolFile(importId, dir));
}

/** Drops the bytes of an import that needs them no more. */
export async function dropSpooled(importId: number): Promise<void> {
  const file = spoolFile(importId);
  await Promise.all([file, madeText(file), openedMark(file)].map((name) => rm(name, { force: true })));
}

/**
 * Removes what a dead process left: files without a waiting import, and pages of feeds that aren’t
 * being fetched. Call it at the start, before anything comes in.
 */
export async function dropLeftovers(db: Db, dir = dataDir()): Promise<void> {
  const folder = path.join(dir, 'uploads');
  const awaited = new Set([
    ...unfinishedIds(db).map(String),
    ...fetchingFeeds(db).map((id) => `feed-${id}`),
    ...unfinishedSiteImports(db).map((id) => `site-${id}`),
  ]);
  const names = await readdir(folder).catch(() => []);
  const left = names.filter((name) => !awaited.has(name.split('.', 1)[0]!) || /\.(part|rows)$/.test(name));
  await Promise.all(left.map((name) => rm(path.join(folder, name), { recursive: true, force: true })));
}
