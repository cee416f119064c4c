import { savePageTraits } from '@/store/traits/traits';
import { represented } from '@/app/resources';
import { pageJson } from '@/core/model/traitsJson';
import { answer, operation } from '../../doorway';
import { pageEditSchema } from '../../lists';

export const GET = operation(
  {
    summary: 'What is said of a page',
    on: 'page',
    may: 'read',
    answers: { '200': answer('The page', pageJson) },
  },
  ({ db, site, page }) => Response.json(represented(db, 'page', { site, page })),
);

export const PATCH = operation(
  {
    summary: 'Say which search a page is meant for, and what it matters',
    on: 'page',
    may: 'edit',
    auditAction: 'described a page',
    body: pageEditSchema,
    answers: { '200': answer('The page as it is now', pageJson) },
  },
  async ({ db, site, page, body, guard }) => {
    await savePageTraits(db, [page.id], body, guard);
    return Response.json(represented(db, 'page', { site, page }));
  },
);
