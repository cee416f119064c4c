import { z } from 'zod';
import { INTENTS } from '@/core/model/intents';
import type { ListSubject } from '@/core/lists/columns';
import type { ListQuery } from '@/core/lists/wish';
import { lineText } from '@/core/model/fields';
import type { Site } from '@/core/model/site';
import { ask } from '@/app/ask';
import { listJson } from '@/core/lists/lineJson';
import { toJson } from '@/core/model/json';
import type { ListRequest } from '@/services/lists/listRequest';
import { listRequest } from '@/services/lists/fromQuery';
import { SiteContext } from '@/services/site/siteContext';
import { pageOf } from '@/store/addresses/pages';
import type { Db } from '@/store/database';
import { Problem } from '@/app/problem';

/* Lists of pages, queries and pairs, and edits of the traits of pages and queries. */

/** Answers with the lines of a list. Throws Problem where what is asked makes no sense, or there are no figures. */
export async function answerList(
  db: Db,
  site: Site,
  subject: ListSubject,
  query: ListQuery,
  narrowed: Pick<ListRequest, 'pageId' | 'queryId'> = {},
): Promise<Response> {
  const wish = listRequest(new SiteContext(db, site), subject, query, narrowed);
  if (typeof wish === 'string') throw new Problem(422, wish);
  const found = wish && (await ask('list', { siteId: site.id, wish }));
  if (!wish || !found) throw new Problem(409, 'There are no daily figures yet.');
  const end = wish.from + found.lines.length;
  const next = found.lines.length > 0 && end < found.total ? String(end) : null;
  return Response.json(toJson(listJson, { items: found.lines, total: found.total, next }));
}

export const pageEditSchema = z.strictObject({
  target: lineText().min(1).max(500).nullable().optional(),
  weight: z.number().min(0).max(1000).nullable().optional(),
  sink: z.boolean().optional(),
});

export const queryEditSchema = z.strictObject({
  target: z.string().trim().min(1).max(2048).nullable().optional(),
  intent: z.enum(INTENTS).nullable().optional(),
  brand: z.boolean().nullable().optional(),
});

/** The page that a query is meant for, as it was written. Throws Problem where the site does not have it. */
export function targetPage(
  db: Db,
  site: Site,
  written: string | null | undefined,
): number | null | undefined {
  if (written === null || written === undefined) return written;
  const page = pageOf(db, site, written);
  if (!page) throw new Problem(422, `There is no page ${written} on this site.`);
  return page.id;
}
