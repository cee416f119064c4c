import { Readable } from 'node:stream';
import type { ReadableStream as NodeStream } from 'node:stream/web';
import type { z } from 'zod';
import type { Change, PageRef } from '@/core/model/change';
import type { Site } from '@/core/model/site';
import { findChange } from '@/store/changes';
import { database, type Db } from '@/store/database';
import { findSite } from '@/store/sites';
import { findSnapshot, pageOfSnapshot, type KeptSnapshot } from '@/store/snapshots';
import { Problem } from '@/app/problem';

const MAX_JSON_BYTES = 2 * 1024 * 1024;

/** The JSON body of a request, not yet validated. Throws Problem where it is none or too large. */
export async function readJson(request: Request): Promise<unknown> {
  const reader = request.body?.getReader();
  const pieces: Uint8Array[] = [];
  let bytes = 0;
  for (let piece = await reader?.read(); piece && !piece.done; piece = await reader?.read()) {
    bytes += piece.value.length;
    if (bytes > MAX_JSON_BYTES) throw new Problem(413, 'The body is larger than 2 MiB.');
    pieces.push(piece.value);
  }
  try {
    return JSON.parse(Buffer.concat(pieces).toString('utf8'));
  } catch {
    throw new Problem(400, 'The body is not JSON.');
  }
}

/** The body of a request as the streams of Node.js have it. */
export function asNode(body: ReadableStream<Uint8Array>): Readable {
  return Readable.fromWeb(body as NodeStream<Uint8Array>);
}

/** The validated JSON body of a request. Throws Problem or ZodError. */
export async function readBody<S extends z.ZodType>(request: Request, schema: S): Promise<z.output<S>> {
  return schema.parse(await readJson(request));
}

const LONGEST_KEY = 255;

/** The name that a request gives itself, under which asking twice does a thing once; null without. Throws Problem. */
export function idempotencyKey(request: Request): string | null {
  const key = request.headers.get('idempotency-key')?.trim();
  if (!key) return null;
  if (key.length > LONGEST_KEY)
    throw new Problem(422, `An Idempotency-Key has at most ${LONGEST_KEY} characters.`);
  return key;
}

/** The number in a path; -1, which nothing has, where it is none. */
export function asId(text: string): number {
  return /^\d{1,15}$/.test(text) ? Number(text) : -1;
}

export type SiteParams = { params: Promise<{ siteId: string }> };
export type ChangeParams = { params: Promise<{ changeId: string }> };
export type SnapshotParams = { params: Promise<{ snapshotId: string }> };

/** The site that a path names. Throws Problem 404. */
export async function siteOf({ params }: SiteParams): Promise<{ db: Db; site: Site }> {
  const db = database();
  const { siteId } = await params;
  const site = findSite(db, asId(siteId));
  if (!site) throw new Problem(404, `There is no site ${siteId}.`);
  return { db, site };
}

/** The change that a path names, and its site. Throws Problem 404. */
export async function changeOf({ params }: ChangeParams): Promise<{ db: Db; site: Site; change: Change }> {
  const db = database();
  const { changeId } = await params;
  const change = findChange(db, asId(changeId));
  const site = change && findSite(db, change.siteId);
  if (!change || !site) throw new Problem(404, `There is no change ${changeId}.`);
  return { db, site, change };
}

/** The snapshot that a path names, and its page. Throws Problem 404. */
export async function snapshotOf({
  params,
}: SnapshotParams): Promise<{ db: Db; snapshot: KeptSnapshot; page: PageRef }> {
  const db = database();
  const { snapshotId } = await params;
  const snapshot = findSnapshot(db, asId(snapshotId));
  const page = snapshot && pageOfSnapshot(db, snapshot);
  if (!snapshot || !page) throw new Problem(404, `There is no snapshot ${snapshotId}.`);
  return { db, snapshot, page };
}
