import { newSiteSchema } from '@/core/model/site';
import { database } from '@/store/database';
import { addSite, listSites } from '@/store/sites';
import { answering } from '@/app/problem';
import { readBody } from '../request';
import { siteToJson } from '../serialise';

export const dynamic = 'force-dynamic';

export const GET = answering(async () => Response.json(listSites(database()).map(siteToJson)));

export const POST = answering(async (request: Request) => {
  const site = await addSite(database(), await readBody(request, newSiteSchema));
  return Response.json(siteToJson(site), { status: 201 });
});
