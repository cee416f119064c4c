import { Problem } from '@/app/problem';
import { lookInWorker } from '@/jobs/runner';
import { pageOf, pagesForAddresses } from '@/store/addresses/pages';
import { findSnapshot, snapshotsOf } from '@/store/evidence/snapshots';
import { write } from '@/store/write';
import { answer, operation, problem } from '../../../doorway';
import { snapshotJson, snapshotsJson, snapshotWishSchema } from '../../../schemas';
import { snapshotToJson } from '../../../serialise';

export const GET = operation(
  {
    summary: 'List what a page said, the last first',
    on: 'site',
    query: snapshotWishSchema,
    answers: { '200': answer('The snapshots', snapshotsJson) },
  },
  ({ db, site, query }) => {
    const page = pageOf(db, site, query.page);
    const items = page ? snapshotsOf(db, page.id).map((one) => snapshotToJson(one, page)) : [];
    return Response.json({ items });
  },
);

export const POST = operation(
  {
    summary: 'Fetch a page and keep what it says',
    on: 'site',
    body: snapshotWishSchema,
    answers: {
      '201': answer('The snapshot; an earlier one where the page says the same as then', snapshotJson),
      '502': problem('The page could not be fetched.'),
    },
  },
  async ({ db, site, body }) => {
    const [page] = await write(db, () => pagesForAddresses(db, site, [body.page]));
    const looked = await lookInWorker(site.id, page!);
    if ('failure' in looked) throw new Problem(502, looked.failure);
    return Response.json(snapshotToJson(findSnapshot(db, looked.snapshotId)!, page!), { status: 201 });
  },
);
