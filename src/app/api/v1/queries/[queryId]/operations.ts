import { saveQueryTraits } from '@/store/traits/traits';
import { represented } from '@/app/resources';
import { queryJson } from '@/core/model/traitsJson';
import { answer, operation } from '../../doorway';
import { queryEditSchema, targetPage } from '../../lists';

export const GET = operation(
  {
    summary: 'What is said of a query',
    on: 'query',
    may: 'read',
    answers: { '200': answer('The query', queryJson) },
  },
  ({ db, site, asked }) => Response.json(represented(db, 'query', { site, asked })),
);

export const PATCH = operation(
  {
    summary: 'Say which page is meant for a query, and what it is after',
    on: 'query',
    may: 'edit',
    auditAction: 'described a query',
    body: queryEditSchema,
    answers: { '200': answer('The query as it is now', queryJson) },
  },
  async ({ db, site, asked, body: { target, ...edit }, guard }) => {
    const targetPageId = targetPage(db, site, target);
    await saveQueryTraits(
      db,
      [asked.id],
      { ...edit, ...(targetPageId !== undefined && { targetPageId }) },
      guard,
    );
    return Response.json(represented(db, 'query', { site, asked }));
  },
);
