import { z } from 'zod';
import { operation } from '@/app/api/v1/doorway';
import { Problem } from '@/app/problem';
import { fileOf, keepDrafts } from '@/jobs/queueFile';

/** Takes a file from the intake screen as a draft, to be looked through and confirmed before anything is stored. */
export const POST = operation(
  {
    summary: 'Take a file as a draft',
    on: 'site',
    may: 'log',
    auditAction: 'sent a file',
    query: z.strictObject({ fileName: z.string().optional() }),
    answers: {},
  },
  async ({ db, site, request, query: { fileName } }) => {
    const file = await fileOf(request);
    if (!file) throw new Problem(400, 'The file is empty.');
    const drafts = await keepDrafts(db, site.id, file, fileName?.slice(0, 200) || 'file.csv');
    return Response.json(drafts, { status: 201 });
  },
);
