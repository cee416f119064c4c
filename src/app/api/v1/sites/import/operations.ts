import { rm } from 'node:fs/promises';
import { z } from 'zod';
import { Problem } from '@/app/problem';
import { fileOf } from '@/jobs/queueFile';
import { startRunner } from '@/jobs/runner';
import { keepArchive } from '@/jobs/siteArchive';
import { findSiteImport } from '@/store/archive/siteImports';
import { ArchiveRefused } from '@/store/archive/zip';
import { answer, operation, problem } from '../../doorway';

export const GET = operation(
  {
    summary: 'How far an exported site has been brought in',
    on: 'nothing',
    may: 'administer',
    query: z.strictObject({ id: z.coerce.number().int().positive() }),
    answers: {
      '200': answer(
        'The archive',
        z.object({
          ...{ id: z.int(), fileName: z.string(), bytes: z.int() },
          state: z.enum(['queued', 'running', 'done', 'failed']),
          ...{ rowsRead: z.int(), rowsTotal: z.int().nullable() },
          siteId: z.int().nullable().meta({ description: 'The site that it became.' }),
          failure: z.string().nullable().meta({ description: 'Why nothing of it was stored.' }),
        }),
      ),
      '404': problem('There is no such archive.'),
    },
  },
  ({ db, query }) => {
    const found = findSiteImport(db, query.id);
    if (!found) throw new Problem(404, `There is no archive ${query.id}.`);
    const { id, fileName, bytes, state, rowsRead, rowsTotal, siteId, failure } = found;
    return Response.json({ id, fileName, bytes, state, rowsRead, rowsTotal, siteId, failure });
  },
);

export const POST = operation(
  {
    summary: 'Bring in a site that was exported, as a new site',
    on: 'nothing',
    may: 'administer',
    auditAction: 'brought in an exported site',
    query: z.strictObject({
      fileName: z.string().max(200).optional().meta({ description: 'What the file is called.' }),
    }),
    content: { 'application/zip': z.string().meta({ format: 'binary' }) },
    answers: {
      '202': answer('The archive waits for its turn', z.object({ id: z.int() })),
      '415': problem('The body is of another type.'),
      '422': problem('The body is no archive of a site, or its site is here already.'),
    },
  },
  async ({ db, request, query: { fileName } }) => {
    const type = request.headers.get('content-type')?.split(';')[0]?.trim().toLowerCase();
    if (type !== 'application/zip')
      throw new Problem(415, 'Send the archive as the body, as application/zip.');
    const file = await fileOf(request);
    if (!file) throw new Problem(400, 'The body is empty.');
    try {
      const id = await keepArchive(db, file, fileName ?? 'sent by a script.zip');
      startRunner();
      return Response.json({ id }, { status: 202, headers: { Location: `/api/v1/sites/import?id=${id}` } });
    } catch (error) {
      await rm(file.file, { force: true });
      if (error instanceof ArchiveRefused) throw new Problem(422, error.message);
      throw error;
    }
  },
);
