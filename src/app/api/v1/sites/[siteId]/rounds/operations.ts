import { z } from 'zod';
import { newRoundSchema } from '@/core/model/round';
import { ask } from '@/app/ask';
import { beginRound, pagesNamed } from '@/services/rounds/begin';
import { findRound, listRounds } from '@/store/rounds/rounds';
import { toJson } from '@/core/model/json';
import { roundJson } from '@/core/model/roundJson';
import { answer, operation } from '../../../doorway';

const querySchema = z.object({
  limit: z.coerce.number().int().min(1).max(200).default(50),
  cursor: z
    .string()
    .regex(/^\d{1,9}$/, 'Give the `next` of the answer before.')
    .optional(),
});

export const GET = operation(
  {
    summary: 'The rounds of a site, the last begun first',
    on: 'site',
    may: 'read',
    query: querySchema,
    answers: {
      '200': answer(
        'The rounds',
        z.object({ items: z.array(roundJson), total: z.int(), next: z.string().nullable() }),
      ),
    },
  },
  ({ db, site, query: { limit, cursor } }) => {
    const found = listRounds(db, site.id);
    const from = Number(cursor ?? 0);
    const items = found.slice(from, from + limit);
    const end = from + items.length;
    return Response.json({
      items: items.map((round) => toJson(roundJson, round)),
      total: found.length,
      next: items.length > 0 && end < found.length ? String(end) : null,
    });
  },
);

export const POST = operation(
  {
    summary: 'Begin a round: like pages are paired, and the halves drawn',
    on: 'site',
    may: 'edit',
    auditAction: 'began a round',
    body: newRoundSchema,
    answers: { '201': answer('The round', roundJson) },
  },
  async ({ db, site, body }) => {
    const pages = pagesNamed(db, site, body.pages).map(({ page }) => page);
    const candidates = await ask('roundCandidates', { siteId: site.id, pages });
    const id = await beginRound(db, site, body, candidates ?? []);
    return Response.json(toJson(roundJson, findRound(db, id)!), { status: 201 });
  },
);
