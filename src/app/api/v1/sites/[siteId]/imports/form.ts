import type { Readable } from 'node:stream';
import { finished } from 'node:stream/promises';
import busboy from 'busboy';
import { Problem } from '@/app/problem';
import { FileRefused } from '@/jobs/intake/fileRefused';
import { dropDrafts, keepDrafts, type Drafts } from '@/jobs/queueFile';
import { FileTooLarge, receive } from '@/jobs/spool';
import type { Db } from '@/store/database';
import { asNode } from '../../../request';

/** More than these are refused, by name. */
const MOST_FILES = 200;

const NOTHING: Drafts = { ids: [], leftOut: [] };

/**
 * Takes the files of a form (multipart/form-data, RFC 7578) into the spool as they come in, as drafts, and gives their
 * ids and the other fields. A file that cannot be taken is named with the reason and does the others no harm; of a form that
 * breaks off nothing is kept. Throws Problem where the form is broken or has no file.
 */
export async function keepFormFiles(
  db: Db,
  siteId: number,
  request: Request,
): Promise<{ drafts: Drafts; fields: Record<string, string> }> {
  const fields = new Map<string, string>();
  // One after the other, so that of two files with the same rows the later one is the newer.
  let keeping: Promise<Drafts> = Promise.resolve(NOTHING);
  let files = 0;
  const whole = new Promise<void>((resolve, reject) => {
    let form: busboy.Busboy;
    try {
      form = busboy({
        headers: Object.fromEntries(request.headers),
        limits: { fields: 50, fieldSize: 100_000 },
        defParamCharset: 'utf8',
      });
    } catch {
      reject(new Problem(400, 'The form has no boundary between its parts.'));
      return;
    }
    form.on('file', (_field, stream, { filename }) => {
      const name = (filename || 'file.csv').slice(0, 200);
      const take =
        ++files <= MOST_FILES ? () => keepOne(db, siteId, stream, name) : () => refusedOne(stream, name);
      keeping = keeping.then(async (before) => joined(before, await take()));
      keeping.catch(() => stream.resume());
    });
    form.on('field', (name, value) => {
      fields.set(name, value);
    });
    form.on('close', () => resolve());
    form.on('error', () => reject(new Problem(400, 'The form is broken or cut off.')));
    asNode(request.body!)
      .on('error', () => reject(new Problem(400, 'The form is cut off.')))
      .pipe(form);
  });
  try {
    await whole;
  } catch (error) {
    await dropDrafts(db, (await keeping.catch(() => NOTHING)).ids);
    throw error;
  }
  const drafts = await keeping;
  if (files === 0) throw new Problem(400, 'The form has no file in it.');
  return { drafts, fields: Object.fromEntries(fields) };
}

const joined = (a: Drafts, b: Drafts): Drafts => ({
  ids: [...a.ids, ...b.ids],
  leftOut: [...a.leftOut, ...b.leftOut],
});

async function keepOne(db: Db, siteId: number, stream: Readable, name: string): Promise<Drafts> {
  try {
    return await keepDrafts(db, siteId, await receive(stream), name);
  } catch (error) {
    stream.resume();
    if (!(error instanceof FileRefused || error instanceof FileTooLarge)) throw error;
    return { ids: [], leftOut: [{ name, reason: error.message }] };
  }
}

async function refusedOne(stream: Readable, name: string): Promise<Drafts> {
  stream.resume();
  await finished(stream);
  const reason = `A form can have ${MOST_FILES} files; send this one in another.`;
  return { ids: [], leftOut: [{ name, reason }] };
}
