import { ask } from '@/app/ask';
import { Problem } from '@/app/problem';
import { toJson } from '@/core/model/json';
import { readingJson } from '@/core/reading/readingJson';
import { answer, operation } from '../../../doorway';
import { readingQuerySchema, readingQueryOf } from '../../../readingQuery';

export const GET = operation(
  {
    summary: 'Read a change before and after',
    on: 'change',
    may: 'read',
    query: readingQuerySchema,
    answers: { '200': answer('The reading', readingJson) },
  },
  async ({ site, change, query }) => {
    const reading = await ask('reading', {
      siteId: change.siteId,
      changeId: change.id,
      wish: readingQueryOf(site, change, query),
    });
    if (!reading) throw new Problem(404, `There is no change ${change.id}.`);
    return Response.json(toJson(readingJson, reading));
  },
);
