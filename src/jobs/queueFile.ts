import { Readable } from 'node:stream';
import type { ReadableStream } from 'node:stream/web';
import { today } from '../store/clock';
import type { Db } from '../store/database';
import type { IntakeSettings } from '../core/intake/settings';
import { addImport, confirmDraft } from '../store/imports';
import { keepReceived, receive } from './spool';

/**
 * Takes the bytes of a figures file into the spool and records the import, as a draft or in the queue.
 * Gives its id. Throws FileTooLarge.
 */
export async function queueFile(
  db: Db,
  siteId: number,
  body: globalThis.ReadableStream<Uint8Array>,
  { fileName, state, settings }: { fileName: string; state: 'draft' | 'queued'; settings?: IntakeSettings },
): Promise<number> {
  const received = await receive(Readable.fromWeb(body as ReadableStream<Uint8Array>));
  // A record in the queue is taken up at once, so the file must be in its place before the record leaves the draft.
  const values = { siteId, fileName, bytesTotal: received.bytes, takenOn: today() };
  const id = await addImport(db, { ...values, state: 'draft' }, settings);
  await keepReceived(received.file, id);
  if (state === 'queued') await confirmDraft(db, id, settings ?? {});
  return id;
}
