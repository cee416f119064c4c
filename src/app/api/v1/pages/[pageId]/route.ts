import { savePageTraits } from '@/store/traits/traits';
import { answer, operation } from '../../doorway';
import { pageEditSchema, pageJson, pageToJson } from '../../lists';

export const GET = operation(
  {
    summary: 'What is said of a page',
    on: 'page',
    may: 'read',
    answers: { '200': answer('The page', pageJson) },
  },
  ({ db, page }) => Response.json(pageToJson(db, page)),
);

export const PATCH = operation(
  {
    summary: 'Say which search a page is meant for, and what it matters',
    on: 'page',
    may: 'edit',
    did: 'described a page',
    body: pageEditSchema,
    answers: { '200': answer('The page as it is now', pageJson) },
  },
  async ({ db, page, body, guard }) => {
    await savePageTraits(db, [page.id], body, guard);
    return Response.json(pageToJson(db, page));
  },
);
