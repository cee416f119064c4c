import { prepared, type Db } from './database';
import { DELETED_KEPT_DAYS } from './keptDays';
import { setFeedDeleted } from './figures/feeds';
import { setChangeDeleted } from './ledger/changes';
import { setResultPageDeleted } from './wording/resultPages';
import { setReportDeleted } from './reports/reports';
import { setRoundDeleted } from './rounds/rounds';
import { setEventDeleted } from './ledger/events';

/** What can be deleted and put back. */
export const DELETED_KINDS = ['change', 'event', 'feed', 'results', 'round', 'report'] as const;
export type DeletedKind = (typeof DELETED_KINDS)[number];

export type Deleted = {
  readonly kind: DeletedKind;
  readonly id: number;
  readonly name: string;
  /** ISO 8601, UTC. */
  readonly deletedAt: string;
};

/** Changes that went with the file that brought them come back with it, and not one by one. */
const SOURCES: Readonly<Record<DeletedKind, string>> = {
  change: `SELECT 'change' AS kind, c.id, c.title AS name, c.deleted_at AS deletedAt FROM change c
           LEFT JOIN import i ON i.id = c.import_id
           WHERE c.site_id = @siteId AND NOT (i.state IS 'undone' AND i.finished_at IS c.deleted_at)`,
  event: `SELECT 'event', id, name, deleted_at FROM event WHERE site_id = @siteId`,
  feed: `SELECT 'feed', id, name, deleted_at FROM feed WHERE site_id = @siteId`,
  results: `SELECT 'results', r.id, q.text || ', ' || date(r.day * 86400, 'unixepoch'), r.deleted_at
            FROM result_page r JOIN query q ON q.id = r.query_id WHERE r.site_id = @siteId`,
  round: `SELECT 'round', id, name, deleted_at FROM round WHERE site_id = @siteId`,
  report: `SELECT 'report', id, title, deleted_at FROM report WHERE site_id = @siteId`,
};

/** What was deleted of a site within the days in which it can be put back, the last first. */
export function deletedOf(db: Db, siteId: number, now = Date.now()): Deleted[] {
  const since = new Date(now - DELETED_KEPT_DAYS * 86_400_000).toISOString();
  return prepared<[{ siteId: number; since: string }], Deleted>(
    db,
    `SELECT * FROM (${Object.values(SOURCES).join(' UNION ALL ')})
     WHERE deletedAt IS NOT NULL AND deletedAt > @since ORDER BY deletedAt DESC, kind, id DESC`,
  ).all({ siteId, since });
}

const RESTORE: Readonly<Record<DeletedKind, (db: Db, id: number, deleted: boolean) => Promise<unknown>>> = {
  change: setChangeDeleted,
  event: setEventDeleted,
  feed: setFeedDeleted,
  results: (db, id, deleted) => setResultPageDeleted(db, id, deleted),
  round: setRoundDeleted,
  report: setReportDeleted,
};

/** Puts back something that was deleted of a site. Resolves to whether it was. */
export async function putBackDeleted(
  db: Db,
  siteId: number,
  kind: DeletedKind,
  id: number,
): Promise<boolean> {
  const there = deletedOf(db, siteId).some((one) => one.kind === kind && one.id === id);
  // Of two who put it back at once only one does.
  return there && (await RESTORE[kind](db, id, false)) !== false;
}
