import { listJson } from '@/core/lists/lineJson';
import { answer, operation, problem } from '../../../doorway';
import { listQuerySchema } from '@/core/lists/wish';
import { answerList } from '../../../lists';

export const GET = operation(
  {
    summary: 'The queries of a page',
    on: 'page',
    may: 'read',
    query: listQuerySchema,
    answers: { '200': answer('The lines', listJson), '409': problem('There are no daily figures yet.') },
  },
  ({ db, site, page, query }) => answerList(db, site, 'pairs', query, { pageId: page.id }),
);
