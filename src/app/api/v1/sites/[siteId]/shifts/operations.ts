import { z } from 'zod';
import { ask } from '@/app/ask';
import { pageOf } from '@/store/addresses/pages';
import { Problem } from '@/app/problem';
import { toJson } from '@/core/model/json';
import { shiftsJson } from '@/core/shifts/shiftJson';
import { answer, operation, problem } from '../../../doorway';

export const GET = operation(
  {
    summary: 'When the level of a page, a query or the whole site shifted, and what happened near it',
    on: 'site',
    may: 'read',
    query: z.object({
      page: z.string().trim().min(1).max(2048).optional(),
      query: z.string().trim().min(1).max(2000).optional(),
    }),
    answers: {
      '200': answer('The shifts, the oldest first', shiftsJson),
      '409': problem('There are no daily figures yet.'),
    },
  },
  async ({ db, site, query: { page: written, query = null } }) => {
    const page = written === undefined ? null : pageOf(db, site, written);
    if (written !== undefined && !page) throw new Problem(422, `There is no page ${written} on this site.`);
    const found = await ask('shifts', { siteId: site.id, wish: { pageIds: page && [page.id], query } });
    if (!found) throw new Problem(409, 'There are no daily figures yet.');
    return Response.json(toJson(shiftsJson, { items: found }));
  },
);
