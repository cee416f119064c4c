import { z } from 'zod';
import { queryIdOf } from '@/store/figures/queryIds';
import { Problem } from '@/app/problem';
import { listJson } from '@/core/lists/lineJson';
import { answer, operation, problem } from '../../../../doorway';
import { listQuerySchema } from '@/core/lists/wish';
import { answerList } from '../../../../lists';

export const GET = operation(
  {
    summary: 'The pages that were shown for a query',
    on: 'site',
    may: 'read',
    query: listQuerySchema.extend({ query: z.string().trim().min(1).max(2000) }),
    answers: { '200': answer('The lines', listJson), '409': problem('There are no daily figures yet.') },
  },
  ({ db, site, query: { query: text, ...wish } }) => {
    const queryId = queryIdOf(db, site.id, text);
    if (queryId === null) throw new Problem(422, `There are no figures of the query ${text.slice(0, 80)}.`);
    return answerList(db, site, 'pairs', wish, { queryId });
  },
);
