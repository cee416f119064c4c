import { z } from 'zod';
import type { PageRef } from '@/core/model/change';
import { INTENTS } from '@/core/model/intents';
import type { ListSubject } from '@/core/lists/columns';
import { listQuerySchema, type ListQuery } from '@/core/lists/wish';
import { lineText } from '@/core/model/fields';
import type { Site } from '@/core/model/site';
import { ask } from '@/app/ask';
import type { ListLine } from '@/core/lists/line';
import type { ListWish } from '@/services/lists/listRequest';
import { listWish } from '@/services/lists/wish';
import { SiteContext } from '@/services/site/siteContext';
import { findPage, pageOf } from '@/store/addresses/pages';
import type { Db } from '@/store/database';
import type { AskedQuery } from '@/store/figures/queryIds';
import { traitsOfPage, traitsOfQuery } from '@/store/traits/traits';
import { Problem } from '@/app/problem';

/* Lists of pages, queries and pairs, and what is said of single pages and queries. */

const number = z.number().nullable();
const lineJson = z
  .object({
    page: z.string().nullable().meta({ description: 'The address.' }),
    pageId: z.int().nullable(),
    query: z.string().nullable(),
    queryId: z.int().nullable(),
    clicks: number,
    impressions: number,
    ctr: number,
    position: number,
    appeal: number,
    difference: z
      .object({ clicks: number, impressions: number, ctr: number, placesGained: number, appeal: number })
      .nullable(),
    expectedCtr: number.meta({ description: 'The CTR usual on this site at the same positions.' }),
    queries: number,
    pages: number,
    searches: number.meta({ description: 'A month.' }),
    changes: number,
    findings: number,
    weight: number,
    sessions: number,
    engagedShare: number,
    conversions: number,
    revenue: number,
    worth: number,
    title: z.string().nullable(),
    group: z.string().nullable(),
    brand: z.boolean().nullable(),
    intent: z.enum(INTENTS).nullable(),
    target: z.string().nullable(),
  })
  .meta({ id: 'ListLine' });

export const listJson = z.object({
  items: z.array(lineJson),
  total: z.int(),
  next: z.string().nullable().meta({ description: 'The cursor of the lines after these.' }),
});

export { listQuerySchema };

function lineToJson({ page, query, metrics, further, title, group, brand, intent, target }: ListLine) {
  const { clicks, impressions, ctr, position, appeal } = metrics;
  const of = (column: keyof typeof further) => further[column] ?? null;
  return {
    ...{ page: page?.address ?? null, pageId: page?.id ?? null },
    ...{ query: query?.text ?? null, queryId: query?.id ?? null },
    ...{ clicks: clicks.after, impressions: impressions.after, ctr: ctr.after },
    ...{ position: position.after, appeal: appeal.after },
    difference:
      clicks.before === null
        ? null
        : {
            ...{ clicks: clicks.difference, impressions: impressions.difference, ctr: ctr.difference },
            ...{ placesGained: position.placesGained, appeal: appeal.difference },
          },
    ...{ expectedCtr: of('expectedCtr'), queries: of('queries'), pages: of('pages') },
    ...{
      searches: of('searches'),
      changes: of('changes'),
      findings: of('findings'),
      weight: of('weight'),
      sessions: of('sessions'),
    },
    ...{ engagedShare: of('engagedShare'), conversions: of('conversions'), revenue: of('revenue') },
    ...{ worth: of('worth'), title, group, brand, intent, target },
  };
}

/** Answers with the lines of a list. Throws Problem where what is asked makes no sense, or there are no figures. */
export async function answerList(
  db: Db,
  site: Site,
  subject: ListSubject,
  query: ListQuery,
  narrowed: Pick<ListWish, 'pageId' | 'queryId'> = {},
): Promise<Response> {
  const wish = listWish(new SiteContext(db, site), subject, query, narrowed);
  if (typeof wish === 'string') throw new Problem(422, wish);
  const found = wish && (await ask('list', { siteId: site.id, wish }));
  if (!wish || !found) throw new Problem(409, 'There are no daily figures yet.');
  const end = wish.from + found.lines.length;
  return Response.json({
    items: found.lines.map(lineToJson),
    total: found.total,
    next: found.lines.length > 0 && end < found.total ? String(end) : null,
  });
}

export const pageJson = z
  .object({
    id: z.int(),
    address: z.string(),
    target: z.string().nullable().meta({ description: 'The search that it is meant for.' }),
    weight: z.number().nullable().meta({ description: 'What it matters: 1 is as usual.' }),
    sink: z.boolean().meta({ description: 'Meant to sink: it is offered no work.' }),
  })
  .meta({ id: 'Page' });

export const pageEditSchema = z.strictObject({
  target: lineText().min(1).max(500).nullable().optional(),
  weight: z.number().min(0).max(1000).nullable().optional(),
  sink: z.boolean().optional(),
});

export function pageToJson(db: Db, { id, address }: PageRef): z.infer<typeof pageJson> {
  const { target, weight, sink } = traitsOfPage(db, id);
  return { id, address, target, weight, sink };
}

export const queryJson = z
  .object({
    id: z.int(),
    query: z.string(),
    target: z.string().nullable().meta({ description: 'The address of the page that is meant for it.' }),
    intent: z.enum(INTENTS).nullable().meta({ description: 'As somebody set it; null where it is guessed.' }),
    brand: z.boolean().nullable(),
  })
  .meta({ id: 'Query' });

export const queryEditSchema = z.strictObject({
  target: z.string().trim().min(1).max(2048).nullable().optional(),
  intent: z.enum(INTENTS).nullable().optional(),
  brand: z.boolean().nullable().optional(),
});

export function queryToJson(db: Db, { id, siteId, text }: AskedQuery): z.infer<typeof queryJson> {
  const { targetPageId, intent, brand } = traitsOfQuery(db, id);
  const target = targetPageId === null ? null : (findPage(db, siteId, targetPageId)?.address ?? null);
  return { id, query: text, target, intent, brand };
}

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
