import { answering, Problem } from '@/app/problem';
import { lookInWorker } from '@/jobs/runner';
import { pageOf, pagesForAddresses } from '@/store/pages';
import { findSnapshot, snapshotsOf } from '@/store/snapshots';
import { write } from '@/store/write';
import { readBody, siteOf, type SiteParams } from '../../../request';
import { snapshotWishSchema } from '../../../schemas';
import { snapshotToJson } from '../../../serialise';

export const GET = answering(async (request: Request, context: SiteParams) => {
  const { db, site } = await siteOf(context);
  const { searchParams } = new URL(request.url);
  const wish = snapshotWishSchema.parse({ page: searchParams.get('page') ?? undefined });
  const page = pageOf(db, site, wish.page);
  const items = page ? snapshotsOf(db, page.id).map((one) => snapshotToJson(one, page)) : [];
  return Response.json({ items });
});

export const POST = answering(async (request: Request, context: SiteParams) => {
  const { db, site } = await siteOf(context);
  const wish = await readBody(request, snapshotWishSchema);
  const [page] = await write(db, () => pagesForAddresses(db, site, [wish.page]));
  const looked = await lookInWorker(site.id, page!);
  if ('failure' in looked) throw new Problem(502, looked.failure);
  return Response.json(snapshotToJson(findSnapshot(db, looked.snapshotId)!, page!), { status: 201 });
});
