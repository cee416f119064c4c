import { listJson } from '@/core/lists/lineJson';
import { answer, operation, problem } from '../../../doorway';
import { listQuerySchema } from '@/core/lists/wish';
import { answerList } from '../../../lists';

export const GET = operation(
  {
    summary: 'Queries over some days, against others',
    on: 'site',
    may: 'read',
    query: listQuerySchema,
    answers: { '200': answer('The lines', listJson), '409': problem('There are no daily figures yet.') },
  },
  ({ db, site, query }) => answerList(db, site, 'queries', query),
);
