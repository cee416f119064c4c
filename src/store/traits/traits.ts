import { eq } from 'drizzle-orm';
import type { Intent } from '../../core/model/intents';
import type { PageTraits, QueryTraits } from '../../core/model/traits';
import { prepared, type Db } from '../database';
import { pageTrait, queryTrait } from '../schema';
import { write, type Guard } from '../write';

/** What is to be said; a field that is absent stays. */
type Edit<T> = { readonly [K in keyof T]?: T[K] | undefined };

export const NO_PAGE_TRAITS: PageTraits = { target: null, weight: null, sink: false };
export const NO_QUERY_TRAITS: QueryTraits = { targetPageId: null, intent: null, brand: null };

/** The pages of a site of which something is said. */
export function pageTraits(db: Db, siteId: number): Map<number, PageTraits> {
  const rows = prepared<[number], { id: number; target: string | null; weight: number | null; sink: number }>(
    db,
    `SELECT t.page_id AS id, t.target, t.weight, t.sink FROM page_trait t JOIN page p ON p.id = t.page_id
     WHERE p.site_id = ?`,
  ).all(siteId);
  return new Map(rows.map(({ id, target, weight, sink }) => [id, { target, weight, sink: sink === 1 }]));
}

/** The queries of a site of which something is said. */
export function queryTraits(db: Db, siteId: number): Map<number, QueryTraits> {
  const rows = prepared<
    [number],
    { id: number; targetPageId: number | null; intent: Intent | null; brand: number | null }
  >(
    db,
    `SELECT t.query_id AS id, t.target_page_id AS targetPageId, t.intent, t.brand
     FROM query_trait t JOIN query q ON q.id = t.query_id WHERE q.site_id = ?`,
  ).all(siteId);
  return new Map(
    rows.map(({ id, brand, ...rest }) => [id, { ...rest, brand: brand === null ? null : brand === 1 }]),
  );
}

/** What is said of one page. */
export function traitsOfPage(db: Db, pageId: number): PageTraits {
  const { target, weight, sink } = pageTrait;
  return (
    db.select({ target, weight, sink }).from(pageTrait).where(eq(pageTrait.pageId, pageId)).get() ??
    NO_PAGE_TRAITS
  );
}

/** What is said of one query. */
export function traitsOfQuery(db: Db, queryId: number): QueryTraits {
  const { targetPageId, intent, brand } = queryTrait;
  return (
    db
      .select({ targetPageId, intent, brand })
      .from(queryTrait)
      .where(eq(queryTrait.queryId, queryId))
      .get() ?? NO_QUERY_TRAITS
  );
}

/** Says of some pages what is given; the rest stays. */
export async function savePageTraits(
  db: Db,
  pageIds: readonly number[],
  edit: Edit<PageTraits>,
  guard: Guard = () => {},
): Promise<void> {
  await write(db, () => {
    guard();
    for (const pageId of pageIds) {
      const values = { pageId, ...traitsOfPage(db, pageId), ...given(edit) };
      db.insert(pageTrait).values(values).onConflictDoUpdate({ target: pageTrait.pageId, set: values }).run();
    }
  });
}

/** Says of some queries what is given; the rest stays. */
export async function saveQueryTraits(
  db: Db,
  queryIds: readonly number[],
  edit: Edit<QueryTraits>,
  guard: Guard = () => {},
): Promise<void> {
  await write(db, () => {
    guard();
    for (const queryId of queryIds) {
      const values = { queryId, ...traitsOfQuery(db, queryId), ...given(edit) };
      db.insert(queryTrait)
        .values(values)
        .onConflictDoUpdate({ target: queryTrait.queryId, set: values })
        .run();
    }
  });
}

/** Changes whenever something is said of a page or a query of a site. */
export function traitsStamp(db: Db, siteId: number): string {
  const pages = [...pageTraits(db, siteId)].map(([id, one]) => `${id}:${JSON.stringify(one)}`);
  const queries = [...queryTraits(db, siteId)].map(([id, one]) => `${id}:${JSON.stringify(one)}`);
  return `${pages.join()}/${queries.join()}`;
}

/** The fields of an edit that were given. */
function given<T extends object>(edit: Edit<T>): Partial<T> {
  return Object.fromEntries(Object.entries(edit).filter(([, value]) => value !== undefined)) as Partial<T>;
}
