import busboy from 'busboy';
import { Problem } from '@/app/problem';
import { keepDrafts, type Drafts } from '@/jobs/queueFile';
import type { Db } from '@/store/database';
import { receive } from '@/jobs/spool';
import { asNode } from '../../../request';

const MOST_FILES = 20;

/**
 * Takes the files of a form (multipart/form-data, RFC 7578) into the spool as they come in, as drafts, and gives their
 * ids and the other fields. Throws Problem where the form is broken or has no file.
 */
export async function keepFormFiles(
  db: Db,
  siteId: number,
  request: Request,
): Promise<{ drafts: Drafts; fields: Record<string, string> }> {
  const fields: Record<string, string> = {};
  // One after the other, so that of two files with the same rows the later one is the newer.
  let keeping: Promise<Drafts> = Promise.resolve({ ids: [], leftOut: [] });
  await new Promise<void>((resolve, reject) => {
    let form: busboy.Busboy;
    try {
      form = busboy({
        headers: Object.fromEntries(request.headers),
        limits: { files: MOST_FILES, fields: 50, fieldSize: 100_000 },
        defParamCharset: 'utf8',
      });
    } catch {
      reject(new Problem(400, 'The form has no boundary between its parts.'));
      return;
    }
    form.on('file', (_field, stream, { filename }) => {
      keeping = keeping.then(async ({ ids, leftOut }) => {
        const more = await keepDrafts(
          db,
          siteId,
          await receive(stream),
          (filename || 'file.csv').slice(0, 200),
        );
        return { ids: [...ids, ...more.ids], leftOut: [...leftOut, ...more.leftOut] };
      });
      keeping.catch(() => stream.resume());
    });
    form.on('field', (name, value) => {
      fields[name] = value;
    });
    form.on('close', () => resolve());
    form.on('error', () => reject(new Problem(400, 'The form is broken or cut off.')));
    asNode(request.body!).on('error', reject).pipe(form);
  });
  const drafts = await keeping;
  if (drafts.ids.length === 0) throw new Problem(400, 'The form has no file in it.');
  return { drafts, fields };
}
