import { z } from 'zod';
import { isoDay } from '@/core/calendar/day';
import { LIST_DAYS } from '@/core/lists/wish';
import { sheetTable } from '@/core/lists/querySheet';
import { lastSpans, spanLength } from '@/core/calendar/span';
import { ask } from '@/app/ask';
import { SiteContext } from '@/services/site/siteContext';
import { operation } from '@/app/api/v1/doorway';
import { Problem } from '@/app/problem';
import { savedTable } from '@/app/savedTable';

/** A kept sheet as a file: as it was (`anew` absent), or made anew over the last days, with what it said then beside it. */
export const GET = operation(
  { summary: 'A sheet as a file', on: 'sheet', may: 'read', answers: {} },
  async ({ request, db, site, sheet, lines }) => {
    const asked = new URL(request.url).searchParams;
    const as = z.enum(['csv', 'xlsx']).parse(asked.get('as') ?? 'xlsx');
    if (!asked.has('anew')) return savedTable(`${sheet.name} ${isoDay(sheet.day)}`, as, sheetTable(lines));
    const { lastReadable, today } = new SiteContext(db, site);
    if (lastReadable === null) throw new Problem(409, 'There are no daily figures yet.');
    const days = spanLength(sheet) || LIST_DAYS;
    const { before, after } = lastSpans(lastReadable, days);
    const now = await ask('sheet', {
      siteId: site.id,
      pageIds: sheet.pageIds,
      spans: { now: after, was: before },
    });
    return savedTable(`${sheet.name} ${isoDay(today)}`, as, sheetTable(now ?? [], lines));
  },
);
