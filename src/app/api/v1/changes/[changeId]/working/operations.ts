import { z } from 'zod';
import { MEASURES } from '@/core/measures/registry';
import { ask } from '@/app/ask';
import { workbookInWorker } from '@/jobs/inWorker';
import { MOST_WORKED_PAGES } from '@/services/report/working';
import { Problem } from '@/app/problem';
import { operation, problem } from '../../../doorway';
import { readingQuerySchema, readingQueryOf } from '../../../readingQuery';

const XLSX = 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet';

export const GET = operation(
  {
    summary: 'The working of a reading: a spreadsheet in which formulas arrive at its net and its range',
    on: 'change',
    may: 'read',
    query: readingQuerySchema.extend({
      measure: z.enum(MEASURES).optional().meta({
        description: 'Absent: the one that the reading is judged by.',
      }),
    }),
    answers: {
      '200': {
        description: 'The spreadsheet',
        content: { [XLSX]: { schema: z.string().meta({ format: 'binary' }) } },
      },
      '409': problem('There is nothing to work out yet, or the change is on too many pages.'),
    },
  },
  async ({ site, change, query: { measure, ...query } }) => {
    const wish = { ...readingQueryOf(site, change, query), ...(measure && { measure }) };
    const sheets = await ask('readingWorking', { siteId: change.siteId, changeId: change.id, wish });
    if (!sheets)
      throw new Problem(
        409,
        change.pages.length > MOST_WORKED_PAGES
          ? `The change is on more than ${MOST_WORKED_PAGES} pages; narrow the reading to one of them.`
          : 'There are not enough figures before and after the change to work anything out yet.',
      );
    const name = change.title.replace(/[^\w .-]+/g, '-').slice(0, 80);
    return new Response(await workbookInWorker(sheets), {
      headers: {
        'Content-Type': XLSX,
        'Content-Disposition': `attachment; filename="${name}, working.xlsx"`,
      },
    });
  },
);
