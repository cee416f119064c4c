import { z } from 'zod';
import { listQueryFrom } from '@/core/lists/address';
import { LIST_SUBJECTS } from '@/core/lists/columns';
import { ask } from '@/app/ask';
import { listTable } from '@/services/lists/rows';
import { listRequest } from '@/services/lists/fromQuery';
import { SiteContext } from '@/services/site/siteContext';
import { operation } from '@/app/api/v1/doorway';
import { Problem } from '@/app/problem';
import { savedTable } from '@/app/savedTable';

/** More lines than a spreadsheet takes are not saved. */
const MOST_LINES = 200_000;

/** All lines of a list as it is filtered and sorted, as CSV or XLSX. */
export const GET = operation(
  { summary: 'A list as a file', on: 'site', may: 'read', answers: {} },
  async ({ request, db, site, path }) => {
    const subject = z.enum(LIST_SUBJECTS).parse(path.subject);
    const parameters = Object.fromEntries(new URL(request.url).searchParams);
    const as = z.enum(['csv', 'xlsx']).parse(parameters['as'] ?? 'csv');
    const wish = listRequest(new SiteContext(db, site), subject, listQueryFrom(parameters, subject));
    if (typeof wish === 'string') throw new Problem(422, wish);
    const found =
      wish && (await ask('list', { siteId: site.id, wish: { ...wish, from: 0, limit: MOST_LINES } }));
    if (!found) throw new Problem(409, 'There are no daily figures yet.');
    return savedTable(subject, as, listTable(subject, found.lines));
  },
);
