import { z } from 'zod';
import { compareDays } from '@/core/wording/days';
import { findResultPage, resultPagesOf } from '@/store/wording/resultPages';
import { Problem } from '@/app/problem';
import { toJson } from '@/core/model/json';
import { resultsComparisonJson } from '@/core/wording/resultPageJson';
import { answer, operation } from '../../../doorway';
import { asId } from '../../../request';

const wishSchema = z.strictObject({
  with: z
    .string()
    .optional()
    .meta({ description: 'The number of an earlier one; the last before it where absent.' }),
});

export const GET = operation(
  {
    summary: 'Who came, went, moved and reworded since an earlier day',
    on: 'resultPage',
    may: 'read',
    query: wishSchema,
    answers: { '200': answer('The comparison', resultsComparisonJson) },
  },
  ({ db, resultPage, query: { with: named } }) => {
    const other =
      named === undefined
        ? resultPagesOf(db, resultPage.siteId, [resultPage.query.id]).find(({ day }) => day < resultPage.day)
        : findResultPage(db, asId(named));
    if (!other || other.siteId !== resultPage.siteId)
      throw new Problem(
        404,
        named === undefined ? 'It is the first of its query.' : `There is no result page ${named}.`,
      );
    return Response.json(
      toJson(resultsComparisonJson, {
        before: other,
        after: resultPage,
        compared: compareDays(other, resultPage),
      }),
    );
  },
);
