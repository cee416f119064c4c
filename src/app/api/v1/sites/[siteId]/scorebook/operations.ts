import { z } from 'zod';
import { SCORED_BY } from '@/core/scorebook/scorebook';
import { askScorebook } from '@/app/ask';
import { Problem } from '@/app/problem';
import { toJson } from '@/core/model/json';
import { scorebookJson } from '@/core/scorebook/scorebookJson';
import { answer, operation } from '../../../doorway';

export const GET = operation(
  {
    summary: 'What changes of each sort brought, pooled',
    on: 'site',
    may: 'read',
    query: z.object({ by: z.enum(SCORED_BY).default('kind') }),
    answers: { '200': answer('The scorebook', scorebookJson) },
  },
  async ({ site, query: { by } }) => {
    const book = await askScorebook([site.id], by);
    if (!book) throw new Problem(404, 'There is no such site.');
    return Response.json(toJson(scorebookJson, book));
  },
);
