import type { Readable } from 'node:stream';
import { today } from '../store/clock';
import type { Db } from '../store/database';
import { addImport, confirmDraft, dropDraft } from '../store/imports';
import type { NamedSettings } from './checkFile';
import { checkInWorker } from './runner';
import { dropSpooled, keepReceived, receive } from './spool';

/** Takes the bytes of a figures file into the spool and records it as a draft. Gives its id. Throws FileTooLarge. */
export async function keepDraft(db: Db, siteId: number, body: Readable, fileName: string): Promise<number> {
  const received = await receive(body);
  const id = await addImport(db, {
    ...{ siteId, fileName, bytesTotal: received.bytes, takenOn: today() },
    state: 'draft',
  });
  await keepReceived(received.file, id);
  return id;
}

/**
 * Puts a draft in the queue if it can be taken as it is; if not, nothing is kept of it.
 * Throws FileRefused, with what is to be stated where that would help.
 */
export async function queueDraft(db: Db, siteId: number, id: number, wish: NamedSettings): Promise<void> {
  try {
    await confirmDraft(db, id, await checkInWorker(id, siteId, today(), wish));
  } catch (error) {
    if (await dropDraft(db, id)) await dropSpooled(id);
    throw error;
  }
}
