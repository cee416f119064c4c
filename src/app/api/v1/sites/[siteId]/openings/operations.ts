import { z } from 'zod';
import { parseIsoDay } from '@/core/calendar/day';
import { spanLength } from '@/core/calendar/span';
import { isoDaySchema } from '@/core/model/fields';
import { OPENING_KINDS } from '@/core/openings/kinds';
import { ask } from '@/app/ask';
import { Problem } from '@/app/problem';
import { toJson } from '@/core/model/json';
import { openingJson, openingsJson } from '@/core/openings/openingJson';
import { answer, operation, problem } from '../../../doorway';

const querySchema = z.object({
  from: isoDaySchema.optional().meta({ description: 'The last 56 days that may be read where absent.' }),
  to: isoDaySchema.optional(),
  kind: z.enum(OPENING_KINDS).optional(),
  limit: z.coerce.number().int().min(1).max(500).default(50),
  cursor: z
    .string()
    .regex(/^\d{1,9}$/, 'Give the `next` of the answer before.')
    .optional(),
});

export const GET = operation(
  {
    summary: 'Where work is likely to pay, the best first',
    on: 'site',
    may: 'read',
    query: querySchema,
    answers: {
      '200': answer('The openings', openingsJson),
      '409': problem('There are no daily figures yet.'),
    },
  },
  async ({ site, query: { from, to, kind = null, limit, cursor } }) => {
    if ((from === undefined) !== (to === undefined))
      throw new Problem(422, 'Give both from and to, or neither.');
    const span = from && to ? { firstDay: parseIsoDay(from)!, lastDay: parseIsoDay(to)! } : null;
    if (span && (spanLength(span) < 7 || spanLength(span) > 550))
      throw new Problem(422, 'Openings rest on 7 to 550 days.');
    const place = Number(cursor ?? 0);
    const found = await ask('openings', {
      siteId: site.id,
      wish: { span, kind, pageId: null, from: place, limit },
    });
    if (!found) throw new Problem(409, 'There are no daily figures yet.');
    const end = place + found.openings.length;
    return Response.json({
      items: found.openings.map((opening) => toJson(openingJson, opening)),
      total: found.total,
      next: found.openings.length > 0 && end < found.total ? String(end) : null,
    });
  },
);
