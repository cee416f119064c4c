import { z } from 'zod';
import { isoDay } from '@/core/calendar/day';
import { listSpans, listQuerySchema } from '@/core/lists/wish';
import { sheetTable } from '@/core/lists/querySheet';
import { ask } from '@/app/ask';
import { SiteContext } from '@/services/site/siteContext';
import { pageOf } from '@/store/addresses/pages';
import { Problem } from '@/app/problem';
import { savedTable } from '@/app/savedTable';
import { operation, problem } from '../../../doorway';

const MOST_PAGES = 500;

const querySchema = listQuerySchema.pick({ from: true, to: true, against: true }).extend({
  pages: z.string().min(1).max(200_000).meta({ description: 'Addresses or paths, separated by commas.' }),
  as: z.enum(['csv', 'xlsx']).default('csv'),
});

export const GET = operation(
  {
    summary: 'The queries of chosen pages in one dated table',
    on: 'site',
    may: 'read',
    query: querySchema,
    answers: {
      '200': {
        description: 'The sheet, as CSV or XLSX',
        content: {
          'text/csv': { schema: z.string() },
          'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet': { schema: z.string() },
        },
      },
      '409': problem('There are no daily figures yet.'),
    },
  },
  async ({ db, site, query: { pages: written, as, ...wish } }) => {
    const named = [...new Set(written.split(',').map((one) => one.trim()))].filter(Boolean);
    if (named.length > MOST_PAGES) throw new Problem(422, `A sheet has at most ${MOST_PAGES} pages.`);
    const pageIds = named.map((one) => {
      const page = pageOf(db, site, one);
      if (!page) throw new Problem(422, `There is no page ${one} on this site.`);
      return page.id;
    });
    const { lastReadable } = new SiteContext(db, site);
    const spans = lastReadable === null ? null : listSpans(wish, lastReadable);
    if (typeof spans === 'string') throw new Problem(422, spans);
    const lines = spans && (await ask('sheet', { siteId: site.id, pageIds, spans }));
    if (!spans || !lines) throw new Problem(409, 'There are no daily figures yet.');
    return savedTable(`sheet ${isoDay(spans.now.lastDay)}`, as, sheetTable(lines));
  },
);
