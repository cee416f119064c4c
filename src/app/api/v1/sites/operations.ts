import { z } from 'zod';
import { newSiteSchema } from '@/core/model/site';
import { sitesOf } from '@/services/access/sites';
import { addSite } from '@/store/sites';
import { toJson } from '@/core/model/json';
import { siteJson } from '@/core/model/siteJson';
import { answer, operation, problem } from '../doorway';

export const GET = operation(
  {
    summary: 'List the sites',
    on: 'nothing',
    may: 'known',
    answers: { '200': answer('The sites', z.array(siteJson)) },
  },
  ({ db, asker }) => Response.json(toJson(z.array(siteJson), sitesOf(db, asker))),
);

export const POST = operation(
  {
    summary: 'Add a site',
    on: 'nothing',
    may: 'administer',
    auditAction: 'added a site',
    body: newSiteSchema,
    answers: {
      '201': answer('The site', siteJson),
      '409': problem('There is a site at this address already.'),
    },
  },
  async ({ db, body }) => Response.json(toJson(siteJson, await addSite(db, body)), { status: 201 }),
);
