import { askReadings } from '@/app/ask';
import { toJson } from '@/core/model/json';
import { readingItemJson, readingsJson } from '@/core/reading/readingJson';
import { answer, operation } from '../../../doorway';
import { spanQuerySchema } from '../../../readingQuery';

export const GET = operation(
  {
    summary: 'Read all changes of a site, newest first',
    on: 'site',
    may: 'read',
    query: spanQuerySchema,
    answers: { '200': answer('The readings, without queries and reasons', readingsJson) },
  },
  async ({ site, query }) => {
    // Written piece by piece: hundreds of readings at once would hold up everybody else.
    const items: string[] = [];
    for await (const some of askReadings(site.id, query)) {
      items.push(...some.map((reading) => JSON.stringify(toJson(readingItemJson, reading))));
    }
    return new Response(`{"items":[${items.join(',')}]}`, {
      headers: { 'Content-Type': 'application/json' },
    });
  },
);
