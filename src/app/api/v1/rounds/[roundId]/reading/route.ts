import { z } from 'zod';
import { parseIsoDay } from '@/core/calendar/day';
import { isoDaySchema } from '@/core/model/fields';
import { ask } from '@/app/ask';
import { Problem } from '@/app/problem';
import { answer, operation } from '../../../doorway';
import { roundReadingJson, roundReadingToJson } from '../../../rounds';

export const GET = operation(
  {
    summary: 'Read the halves of a round against each other',
    on: 'round',
    may: 'read',
    query: z.object({ asOf: isoDaySchema.optional() }),
    answers: { '200': answer('The reading', roundReadingJson) },
  },
  async ({ round, query: { asOf } }) => {
    const read = await ask('roundReading', {
      siteId: round.siteId,
      roundId: round.id,
      asOf: asOf === undefined ? null : parseIsoDay(asOf),
    });
    const found = read && roundReadingToJson(round, read);
    if (!found) throw new Problem(409, 'Nothing of this round was made yet, or there are no figures.');
    return Response.json(found);
  },
);
