import { z } from 'zod';
import { newResultPageSchema } from '@/core/wording/resultPage';
import { queryIdOf } from '@/store/figures/queryIds';
import { bringInResultPage } from '@/services/wording/resultPages';
import { resultPagesOf } from '@/store/wording/resultPages';
import { toJson } from '@/core/model/json';
import { resultPageJson } from '@/core/wording/resultPageJson';
import { answer, operation } from '../../../doorway';

const querySchema = z.object({
  query: z.string().trim().toLowerCase().min(1).max(500).optional(),
  limit: z.coerce.number().int().min(1).max(200).default(20),
  cursor: z
    .string()
    .regex(/^\d{1,9}$/, 'Give the `next` of the answer before.')
    .optional(),
});

export const GET = operation(
  {
    summary: 'What searches showed, the newest day first',
    on: 'site',
    may: 'read',
    query: querySchema,
    answers: {
      '200': answer(
        'The result pages',
        z.object({ items: z.array(resultPageJson), total: z.int(), next: z.string().nullable() }),
      ),
    },
  },
  ({ db, site, query: { query, limit, cursor } }) => {
    const id = query === undefined ? null : queryIdOf(db, site.id, query);
    const found =
      query !== undefined && id === null ? [] : resultPagesOf(db, site.id, id === null ? null : [id]);
    const from = Number(cursor ?? 0);
    const items = found.slice(from, from + limit);
    const end = from + items.length;
    return Response.json({
      items: items.map((page) => toJson(resultPageJson, page)),
      total: found.length,
      next: items.length > 0 && end < found.length ? String(end) : null,
    });
  },
);

export const POST = operation(
  {
    summary:
      'Keep what a search showed on a day; it takes the place of another of the same query, day and device',
    on: 'site',
    may: 'log',
    auditAction: 'kept a result page',
    body: newResultPageSchema,
    answers: { '201': answer('The result page', resultPageJson) },
  },
  async ({ db, site, body }) =>
    Response.json(toJson(resultPageJson, await bringInResultPage(db, site, body)), { status: 201 }),
);
