import { setSiteDeleted } from '@/store/sites';
import { toJson } from '@/core/model/json';
import { siteJson } from '@/core/model/siteJson';
import { answer, empty, operation } from '../../doorway';

export const GET = operation(
  { summary: 'A site', on: 'site', may: 'read', answers: { '200': answer('The site', siteJson) } },
  ({ site }) => Response.json(toJson(siteJson, site)),
);

export const DELETE = operation(
  {
    summary: 'Delete a site with all that it has; for thirty days it can be put back',
    on: 'site',
    may: 'own',
    auditAction: 'deleted the site',
    answers: { '204': empty('Deleted') },
  },
  async ({ db, site }) => {
    await setSiteDeleted(db, site.id, true);
    return new Response(null, { status: 204 });
  },
);
