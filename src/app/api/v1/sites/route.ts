import { z } from 'zod';
import { newSiteSchema } from '@/core/model/site';
import { addSite, listSites } from '@/store/sites';
import { answer, operation, problem } from '../doorway';
import { siteJson } from '../schemas';
import { siteToJson } from '../serialise';

export const dynamic = 'force-dynamic';

export const GET = operation(
  { summary: 'List the sites', on: 'nothing', answers: { '200': answer('The sites', z.array(siteJson)) } },
  ({ db }) => Response.json(listSites(db).map(siteToJson)),
);

export const POST = operation(
  {
    summary: 'Add a site',
    on: 'nothing',
    body: newSiteSchema,
    answers: {
      '201': answer('The site', siteJson),
      '409': problem('There is a site at this address already.'),
    },
  },
  async ({ db, body }) => Response.json(siteToJson(await addSite(db, body)), { status: 201 }),
);
