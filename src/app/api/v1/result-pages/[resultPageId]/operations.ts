import { setResultPageDeleted } from '@/store/wording/resultPages';
import { toJson } from '@/core/model/json';
import { resultPageJson } from '@/core/wording/resultPageJson';
import { answer, empty, operation } from '../../doorway';

export const GET = operation(
  {
    summary: 'What a search showed on a day',
    on: 'resultPage',
    may: 'read',
    answers: { '200': answer('The result page', resultPageJson) },
  },
  ({ resultPage }) => Response.json(toJson(resultPageJson, resultPage)),
);

export const DELETE = operation(
  {
    summary: 'Delete a result page',
    on: 'resultPage',
    may: 'edit',
    auditAction: 'deleted a result page',
    answers: { '204': empty('Deleted') },
  },
  async ({ db, resultPage }) => {
    await setResultPageDeleted(db, resultPage.id, true);
    return new Response(null, { status: 204 });
  },
);
