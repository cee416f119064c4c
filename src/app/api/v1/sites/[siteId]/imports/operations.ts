import { z } from 'zod';
import { Problem } from '@/app/problem';
import { dropDrafts, fileOf, keepDrafts, queueDrafts, type Drafts } from '@/jobs/queueFile';
import type { NamedSettings } from '@/jobs/checkFile';
import { startRunner } from '@/jobs/runner';
import type { Db } from '@/store/database';
import { listImports } from '@/store/figures/imports';
import { importJson, importsJson } from '@/core/intake/importJson';
import { toJson } from '@/core/model/json';
import { answer, operation, problem } from '../../../doorway';
import { keepFormFiles } from './form';
import { importQuerySchema } from '../../../schemas';

const FILE_TYPES = [
  'text/csv',
  'text/tab-separated-values',
  'application/gzip',
  'application/zip',
  'application/jsonl',
  'application/x-ndjson',
  'application/vnd.apache.parquet',
  'application/octet-stream',
  'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
];

export const GET = operation(
  {
    summary: 'List what was brought in, newest first',
    on: 'site',
    may: 'read',
    answers: { '200': answer('The imports', importsJson) },
  },
  ({ db, site }) => {
    const rows = listImports(db, site.id).filter(({ state }) => state !== 'draft');
    return Response.json({ items: rows.map((row) => toJson(importJson, { ...row, problems: [] })) });
  },
);

export const POST = operation(
  {
    summary:
      'Bring in a file of figures: CSV, JSON Lines, Parquet or spreadsheet, also gzip, or a ZIP of CSV files',
    on: 'site',
    may: 'log',
    auditAction: 'brought a file in',
    // What a form states beside its files may come in its fields, so the query is only checked with them.
    content: {
      'text/csv': z.string(),
      'application/gzip': z.string(),
      'multipart/form-data': z.object({ file: z.string().meta({ format: 'binary' }) }).loose(),
    },
    query: importQuerySchema,
    answers: {
      '202': answer(
        'The file waits for its turn',
        z.object({
          id: z.int(),
          ids: z.array(z.int()),
          leftOut: z
            .array(z.object({ name: z.string(), reason: z.string() }))
            .meta({ description: 'Files of an archive or a form that cannot be taken, and why.' }),
        }),
      ),
      '413': problem('The file is too large.'),
      '415': problem('The body is of another type.'),
      '422': problem(
        'The file cannot be taken; `errors` names what to state (dateOrder, mapping, counted, period) where that would help.',
      ),
    },
  },
  async ({ db, site, request, query: { fileName, ...wish } }) => {
    const type = request.headers.get('content-type')?.split(';')[0]?.trim().toLowerCase() ?? '';
    const encoding = request.headers.get('content-encoding')?.trim().toLowerCase();
    if (encoding !== undefined && encoding !== 'gzip' && encoding !== 'identity')
      throw new Problem(415, 'The body may be encoded with gzip, and with nothing else.');

    // A compressed file is told by its first bytes, whoever compressed it.
    if (type === 'multipart/form-data') {
      if (!request.body) throw new Problem(400, 'The body is empty.');
      const { drafts, fields } = await keepFormFiles(db, site.id, request);
      const asked = Object.fromEntries(new URL(request.url).searchParams);
      // Each file of a form brings its own name.
      const stated = importQuerySchema.safeParse({ ...asked, ...fields });
      if (!stated.success) {
        await dropDrafts(db, drafts.ids);
        throw stated.error;
      }
      const { dateOrder, mapping, counted, period } = stated.data;
      return queued(db, site.id, drafts, { dateOrder, mapping, counted, period });
    }
    if (!FILE_TYPES.includes(type))
      throw new Problem(
        415,
        `Send the file as the body, as one of ${FILE_TYPES.join(', ')}, or as multipart/form-data.`,
      );
    const file = await fileOf(request);
    if (!file) throw new Problem(400, 'The body is empty.');
    const drafts = await keepDrafts(db, site.id, file, fileName ?? 'sent by a script.csv');
    return queued(db, site.id, drafts, wish);
  },
);

async function queued(db: Db, siteId: number, drafts: Drafts, wish: NamedSettings): Promise<Response> {
  const { ids, leftOut } = await queueDrafts(db, siteId, drafts, wish);
  startRunner();
  return Response.json(
    { id: ids[0], ids, leftOut },
    { status: 202, headers: { Location: `/api/v1/imports/${ids[0]}` } },
  );
}
