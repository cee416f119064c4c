import { z } from 'zod';
import { Problem } from '@/app/problem';
import { lookInWorker } from '@/jobs/inWorker';
import { pageOf, pagesForAddresses } from '@/store/addresses/pages';
import { findSnapshot, SNAPSHOTS_SHOWN, snapshotsOf } from '@/store/evidence/snapshots';
import { write } from '@/store/write';
import { toJson } from '@/core/model/json';
import { snapshotJson, snapshotsJson } from '@/core/model/snapshotJson';
import { answer, operation, problem } from '../../../doorway';
import { newSnapshotSchema } from '../../../schemas';

export const GET = operation(
  {
    summary: 'List what a page said, the last first',
    on: 'site',
    may: 'read',
    query: newSnapshotSchema.extend({
      cursor: z.coerce.number().int().positive().optional().meta({
        description: 'Where the list goes on: the `next` of the answer before.',
      }),
    }),
    answers: { '200': answer('The snapshots', snapshotsJson) },
  },
  ({ db, site, query }) => {
    const page = pageOf(db, site, query.page);
    const found = page ? snapshotsOf(db, page.id, SNAPSHOTS_SHOWN + 1, query.cursor) : [];
    const items = found
      .slice(0, SNAPSHOTS_SHOWN)
      .map((one) => toJson(snapshotJson, { snapshot: one, page: page! }));
    return Response.json({ items, next: found.length > SNAPSHOTS_SHOWN ? items.at(-1)!.id : null });
  },
);

export const POST = operation(
  {
    summary: 'Fetch a page and keep what it says',
    on: 'site',
    may: 'log',
    auditAction: 'fetched a page',
    body: newSnapshotSchema,
    answers: {
      '201': answer('The snapshot; an earlier one where the page says the same as then', snapshotJson),
      '502': problem('The page could not be fetched.'),
    },
  },
  async ({ db, site, body }) => {
    const [page] = await write(db, () => pagesForAddresses(db, site, [body.page]));
    const looked = await lookInWorker(site.id, page!);
    if ('failure' in looked) throw new Problem(502, looked.failure);
    return Response.json(
      toJson(snapshotJson, { snapshot: findSnapshot(db, looked.snapshotId)!, page: page! }),
      { status: 201 },
    );
  },
);
