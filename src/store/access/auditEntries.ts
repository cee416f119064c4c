import { and, desc, eq, gte, isNull, like, lt, or, sql, type SQL } from 'drizzle-orm';
import { prepared, type Db } from '../database';
import { nameOf, type AuditContext } from '../acting';
import { auditEntry } from '../schema';

/** What is done again by the same one to the same thing within so long stands in one line. */
const ONE_LINE_MS = 15 * 60_000;

/** Days that activity is kept; the history of a thing stays as long as the thing. */
export const AUDIT_KEPT_DAYS = 730;

/** Notes what is being done, in the transaction that does it. */
export function recordAudit(db: Db, doing: AuditContext, now = new Date()): void {
  const { asker, auditAction, siteId, thing } = doing;
  if (auditAction === null) return;
  const values = {
    ...{ siteId, did: auditAction, actorKind: asker.kind, actor: nameOf(asker) ?? '' },
    actorId: asker.kind === 'person' || asker.kind === 'token' ? String(asker.id) : null,
    ...{ on: thing?.on ?? null, thingId: thing?.id ?? null, title: thing?.title?.slice(0, 300) ?? null },
  };
  const at = now.toISOString();
  const last = db.select().from(auditEntry).orderBy(desc(auditEntry.id)).limit(1).get();
  const same =
    last &&
    (Object.keys(values) as (keyof typeof values)[]).every((key) => last[key] === values[key]) &&
    now.getTime() - Date.parse(last.at) < ONE_LINE_MS;
  if (same)
    db.update(auditEntry)
      .set({ at, times: last.times + 1 })
      .where(eq(auditEntry.id, last.id))
      .run();
  else
    db.insert(auditEntry)
      .values({ ...values, at })
      .run();
}

/** What deeds are asked for: of a site, or of the installation as a whole (`siteId` null). */
export type AuditQuery = {
  readonly siteId: number | null;
  readonly actor?: string | undefined;
  /** Letters of what was done, or of what it was done to. */
  readonly words?: string | undefined;
  readonly on?: string | undefined;
  readonly thingId?: number | undefined;
  /** ISO 8601 days, both included. */
  readonly from?: string | undefined;
  readonly to?: string | undefined;
  /** Those before one. */
  readonly before?: number | undefined;
};

export type AuditEntry = typeof auditEntry.$inferSelect;

/** An audit entry as lists show it. */
export function auditLine({ id, at, actor, actorKind, actorId, did, times }: AuditEntry) {
  return { id, at, actor, did, times, actorId: actorKind === 'person' ? actorId : null };
}

const letters = (text: string) => `%${text.replace(/[\\%_]/g, (c) => `\\${c}`)}%`;

function wished({ siteId, actor, words, on, thingId, from, to, before }: AuditQuery): SQL | undefined {
  const has = (column: typeof auditEntry.did | typeof auditEntry.title, text: string) =>
    sql`${like(column, letters(text))} ESCAPE '\\'`;
  return and(
    siteId === null ? isNull(auditEntry.siteId) : eq(auditEntry.siteId, siteId),
    actor === undefined ? undefined : eq(auditEntry.actor, actor),
    words ? or(has(auditEntry.did, words), has(auditEntry.title, words)) : undefined,
    on === undefined ? undefined : eq(auditEntry.on, on),
    thingId === undefined ? undefined : eq(auditEntry.thingId, thingId),
    from === undefined ? undefined : gte(auditEntry.at, from),
    // The whole of the last day: 24 is later than every hour of it.
    to === undefined ? undefined : lt(auditEntry.at, `${to}T24`),
    before === undefined ? undefined : lt(auditEntry.id, before),
  );
}

/** Deeds, the last first, and how many there are of them. */
export function listAuditEntries(
  db: Db,
  wish: AuditQuery,
  limit: number,
): { items: AuditEntry[]; total: number } {
  const total = db
    .select({ count: sql<number>`count(*)` })
    .from(auditEntry)
    .where(wished({ ...wish, before: undefined }))
    .get()!.count;
  return {
    items: db.select().from(auditEntry).where(wished(wish)).orderBy(desc(auditEntry.id)).limit(limit).all(),
    total,
  };
}

/** Everybody who has done something on a site, by the names that they had then. */
export function actorsOf(db: Db, siteId: number): string[] {
  return prepared<[number], string>(db, 'SELECT DISTINCT actor FROM deed WHERE site_id = ? ORDER BY actor')
    .pluck()
    .all(siteId);
}

/** Somebody, what they may have done something to (null: anything), and since when. */
type Acted = {
  readonly siteId: number;
  readonly kind: 'person' | 'token';
  readonly id: string;
  readonly since: Date;
  readonly on: readonly string[] | null;
};

/** Whether somebody has done something on a site since an instant. */
export function hasActed(db: Db, { siteId, kind, id, since, on }: Acted): boolean {
  return (
    prepared<[object], number>(
      db,
      `SELECT 1 FROM deed WHERE site_id = $siteId AND actor_kind = $kind AND actor_id = $id AND at >= $since
       AND ($on IS NULL OR "on" IN (SELECT value FROM json_each($on))) LIMIT 1`,
    ).get({ siteId, kind, id, since: since.toISOString(), on: on && JSON.stringify(on) }) !== undefined
  );
}

/** Drops deeds that were done too long ago. */
export function dropOldAuditEntries(db: Db, now = Date.now()): void {
  const since = new Date(now - AUDIT_KEPT_DAYS * 86_400_000).toISOString();
  db.delete(auditEntry).where(lt(auditEntry.at, since)).run();
}
