import { newChangeSchema } from '@/core/model/change';
import { addChange, listChanges } from '@/store/changes';
import { answering } from '@/app/problem';
import { idempotencyKey, readBody, siteOf, type SiteParams } from '../../../request';
import { changeToJson } from '../../../serialise';

export const GET = answering(async (_request: Request, context: SiteParams) => {
  const { db, site } = await siteOf(context);
  return Response.json(listChanges(db, site.id).map(changeToJson));
});

export const POST = answering(async (request: Request, context: SiteParams) => {
  const { db, site } = await siteOf(context);
  const key = idempotencyKey(request);
  const change = await addChange(db, site, await readBody(request, newChangeSchema), key);
  return Response.json(changeToJson(change), {
    status: 201,
    headers: { Location: `/api/v1/changes/${change.id}` },
  });
});
