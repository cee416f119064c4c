import { z } from 'zod';
import { parseIsoDay } from '@/core/calendar/day';
import { isoDaySchema } from '@/core/model/fields';
import { ask } from '@/app/ask';
import { Problem } from '@/app/problem';
import { toJson } from '@/core/model/json';
import { roundReadingJson } from '@/core/rounds/roundReadingJson';
import { answer, operation } from '../../../doorway';

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
    if (!read?.first) throw new Problem(409, 'Nothing of this round was made yet, or there are no figures.');
    const { first, second } = read;
    return Response.json(toJson(roundReadingJson, { kind: round.kind, first, second }));
  },
);
