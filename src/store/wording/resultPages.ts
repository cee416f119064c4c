import { markDeleted } from '../markDeleted';
import { and, desc, eq, inArray, isNull } from 'drizzle-orm';
import { asDay, parseIsoDay, type Day } from '../../core/calendar/day';
import { DEVICES } from '../../core/intake/rowReader';
import type { NewResultPage, ResultPage } from '../../core/wording/resultPage';
import { setAuditTarget } from '../acting';
import type { Db } from '../database';
import { findQuery, queryIdOf } from '../figures/queryIds';
import { resultPage } from '../schema';
import { timestamp, write } from '../write';

const columns = {
  ...{ id: resultPage.id, siteId: resultPage.siteId, queryId: resultPage.queryId },
  ...{ day: resultPage.day, device: resultPage.device, content: resultPage.content },
};

type Content = Omit<ResultPage, 'id' | 'siteId' | 'query' | 'day' | 'device'>;
type Row = { id: number; siteId: number; queryId: number; day: number; device: number; content: string };

function asResultPage(db: Db, { content, queryId, day, ...row }: Row): ResultPage {
  return {
    ...(JSON.parse(content) as Content),
    ...row,
    day: asDay(day),
    query: { id: queryId, text: findQuery(db, queryId)?.text ?? '' },
  };
}

/**
 * Keeps what a search showed on a day, and gives its number. Another of the same query, day and device takes its place; the one before is
 * kept among what was deleted.
 */
export async function keepResultPage(db: Db, siteId: number, given: NewResultPage): Promise<number> {
  const { query, day: written, device: named, ...content } = given;
  const day = parseIsoDay(written)!;
  const device = DEVICES[named ?? 'all'];
  return write(db, () => {
    const queryId = queryIdOf(db, siteId, query) ?? newQuery(db, siteId, query);
    const at = timestamp();
    db.update(resultPage)
      .set({ deletedAt: at })
      .where(
        and(
          ...[eq(resultPage.siteId, siteId), eq(resultPage.queryId, queryId), eq(resultPage.day, day)],
          ...[eq(resultPage.device, device), isNull(resultPage.deletedAt)],
        ),
      )
      .run();
    const { id } = db
      .insert(resultPage)
      .values({ siteId, queryId, day, device, content: JSON.stringify(content), at })
      .returning({ id: resultPage.id })
      .get();
    return setAuditTarget('resultPage', id, query);
  });
}

/** A query that the site was never shown for is one that somebody wants to be shown for. */
function newQuery(db: Db, siteId: number, text: string): number {
  return Number(
    db.$client.prepare('INSERT INTO query (site_id, text) VALUES (?, ?)').run(siteId, text).lastInsertRowid,
  );
}

/** What a search showed on a day, by its number; null where there is none. */
export function findResultPage(db: Db, id: number): ResultPage | null {
  const row = db
    .select(columns)
    .from(resultPage)
    .where(and(eq(resultPage.id, id), isNull(resultPage.deletedAt)))
    .get();
  return row ? asResultPage(db, row) : null;
}

/** The result pages of some queries of a site, or of all, the newest day first. */
export function resultPagesOf(
  db: Db,
  siteId: number,
  queryIds: readonly number[] | null = null,
): ResultPage[] {
  return db
    .select(columns)
    .from(resultPage)
    .where(
      and(
        eq(resultPage.siteId, siteId),
        isNull(resultPage.deletedAt),
        ...(queryIds === null ? [] : [inArray(resultPage.queryId, [...queryIds])]),
      ),
    )
    .orderBy(desc(resultPage.day), desc(resultPage.id))
    .all()
    .map((row) => asResultPage(db, row));
}

/** A query of which there are result pages, with the day of the newest and how many there are. */
export type LookedUpQuery = {
  readonly query: { readonly id: number; readonly text: string };
  readonly newest: number;
  readonly lastDay: Day;
  readonly looks: number;
};

/** The queries of which a site has result pages, the one that was looked up last first. */
export function lookedUpQueries(db: Db, siteId: number): LookedUpQuery[] {
  return db.$client
    .prepare<[number], { id: number; text: string; newest: number; lastDay: number; looks: number }>(
      `SELECT q.id, q.text, max(r.day * 1000000000 + r.id) % 1000000000 AS newest, max(r.day) AS lastDay, count(*) AS looks
       FROM result_page r JOIN query q ON q.id = r.query_id
       WHERE r.site_id = ? AND r.deleted_at IS NULL GROUP BY q.id ORDER BY lastDay DESC, q.text`,
    )
    .all(siteId)
    .map(({ id, text, newest, lastDay, looks }) => ({
      query: { id, text },
      ...{ newest, lastDay: asDay(lastDay), looks },
    }));
}

/** Deletes a result page, or puts it back; with the number of a site only one of that site. */
export async function setResultPageDeleted(
  db: Db,
  id: number,
  deleted: boolean,
  ofSite: number | null = null,
): Promise<boolean> {
  return write(db, () => {
    const row = db.select(columns).from(resultPage).where(eq(resultPage.id, id)).get();
    if (!row || (ofSite !== null && row.siteId !== ofSite)) return false;
    if (!deleted) {
      const other = db
        .select({ id: resultPage.id })
        .from(resultPage)
        .where(
          and(
            ...[eq(resultPage.siteId, row.siteId), eq(resultPage.queryId, row.queryId)],
            ...[eq(resultPage.day, row.day), eq(resultPage.device, row.device), isNull(resultPage.deletedAt)],
          ),
        )
        .get();
      // The two change places, so that nothing is lost either way.
      if (other)
        db.update(resultPage).set({ deletedAt: timestamp() }).where(eq(resultPage.id, other.id)).run();
    }
    return markDeleted(db, resultPage, id, deleted);
  });
}
