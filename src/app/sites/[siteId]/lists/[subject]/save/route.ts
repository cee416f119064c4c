import { z } from 'zod';
import { listQueryFrom } from '@/core/lists/address';
import { LIST_SUBJECTS } from '@/core/lists/columns';
import { csvOfCells } from '@/core/words/csv';
import { ask } from '@/jobs/questions/ask';
import { listTable } from '@/services/listRows';
import { listWish } from '@/services/listWish';
import { SiteContext } from '@/services/siteContext';
import { xlsxOf } from '@/services/xlsx';
import { answering, Problem } from '@/app/problem';
import { siteFromPath } from '../../../site';

type Context = { params: Promise<{ siteId: string; subject: string }> };

/** More lines than a spreadsheet takes are not saved. */
const MOST_LINES = 200_000;
const formSchema = z.enum(['csv', 'xlsx']);

/** All lines of a list as it is filtered and sorted, as CSV or XLSX. */
export const GET = answering(async (request: Request, { params }: Context): Promise<Response> => {
  const { siteId, subject: named } = await params;
  const { db, site } = siteFromPath(siteId);
  const subject = z.enum(LIST_SUBJECTS).parse(named);
  const parameters = Object.fromEntries(new URL(request.url).searchParams);
  const form = formSchema.parse(parameters['as'] ?? 'csv');
  const wish = listWish(new SiteContext(db, site), subject, listQueryFrom(parameters, subject));
  if (typeof wish === 'string') throw new Problem(422, wish);
  const found =
    wish && (await ask('list', { siteId: site.id, wish: { ...wish, from: 0, limit: MOST_LINES } }));
  if (!found) throw new Problem(409, 'There are no daily figures yet.');
  const { head, rows } = listTable(subject, found.lines);
  const disposition = `attachment; filename="${subject}.${form}"`;
  if (form === 'csv') {
    return new Response(`\ufeff${csvOfCells(head, rows)}`, {
      headers: { 'Content-Type': 'text/csv; charset=utf-8', 'Content-Disposition': disposition },
    });
  }
  const bytes = await xlsxOf(head, rows);
  return new Response(new Uint8Array(bytes), {
    headers: {
      'Content-Type': 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
      'Content-Disposition': disposition,
    },
  });
});
