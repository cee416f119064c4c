import { and, asc, desc, eq, gte, inArray, isNotNull, lt, ne, sql } from 'drizzle-orm';
import { addDays, asDay, type Day } from '../core/calendar/day';
import { differencesBetween, type Difference } from '../core/markup/differences';
import { unloggedOf } from '../core/markup/unlogged';
import type { Change, PageRef } from '../core/model/change';
import type { PageEvidence, Snapshot } from '../core/model/evidence';
import type { Site } from '../core/model/site';
import { isMade } from '../core/model/steps';
import { changesOnPages, listChanges } from './changes';
import { today } from './clock';
import type { Db } from './database';
import { named, nowPage } from './namedPage';
import { page, pageLook, snapshot } from './schema';
import { timestamp, write } from './write';

/** A snapshot with what it differs in from the one before it. */
export type KeptSnapshot = Snapshot & {
  /** Null for the first of a page. */
  readonly differences: readonly Difference[] | null;
  readonly passedOver: boolean;
};

/** How the looking at a page goes on: whether it is watched, when it was last tried, and why that failed. */
export type PageLook = {
  readonly watched: boolean;
  readonly lastTriedAt: string | null;
  readonly failure: string | null;
};

function fromRow(row: typeof snapshot.$inferSelect): KeptSnapshot {
  return {
    ...{ id: row.id, siteId: row.siteId, pageId: row.pageId, day: asDay(row.day) },
    lastDay: asDay(row.lastDay),
    ...{ takenAt: row.takenAt, lastSeenAt: row.lastSeenAt, passedOver: row.passedOver },
    evidence: JSON.parse(row.evidence) as PageEvidence,
    differences: row.differences === null ? null : (JSON.parse(row.differences) as Difference[]),
  };
}

/** The snapshots of a page, the last first. */
export function snapshotsOf(db: Db, pageId: number, most = 50): KeptSnapshot[] {
  return db
    .select({ snapshot })
    .from(snapshot)
    .innerJoin(named, eq(named.id, snapshot.pageId))
    .where(eq(nowPage, pageId))
    .orderBy(desc(snapshot.id))
    .limit(most)
    .all()
    .map((row) => fromRow(row.snapshot));
}

export function findSnapshot(db: Db, id: number): KeptSnapshot | null {
  const row = db.select().from(snapshot).where(eq(snapshot.id, id)).get();
  return row ? fromRow(row) : null;
}

/** The page that a snapshot is of, by the rules of now. */
export function pageOfSnapshot(db: Db, { pageId }: Snapshot): PageRef | null {
  return (
    db
      .select({ id: page.id, address: page.address })
      .from(named)
      .innerJoin(page, eq(page.id, nowPage))
      .where(eq(named.id, pageId))
      .get() ?? null
  );
}

const MOST_TEXT_KEPT = 20_000;

/**
 * Keeps what a page said when it was fetched. Where it says the same as the last time, that snapshot is said to be seen again,
 * so that two snapshots after one another always differ. Gives the snapshot that stands.
 */
export async function keepSnapshot(
  db: Db,
  siteId: number,
  pageId: number,
  evidence: PageEvidence,
  day: Day,
): Promise<KeptSnapshot> {
  return write(db, () => {
    const at = timestamp();
    noteLook(db, siteId, pageId, { lastTriedAt: at, failure: null });
    const [last] = snapshotsOf(db, pageId, 1);
    const text = JSON.stringify(evidence);
    if (last && JSON.stringify(last.evidence) === text) {
      const row = db
        .update(snapshot)
        .set({ lastDay: day, lastSeenAt: at })
        .where(eq(snapshot.id, last.id))
        .returning();
      return fromRow(row.get() as typeof snapshot.$inferSelect);
    }
    const cut = (one: string | null) => one && one.slice(0, MOST_TEXT_KEPT);
    const differences =
      last &&
      differencesBetween(last.evidence, evidence).map((one) => ({
        ...one,
        before: cut(one.before),
        after: cut(one.after),
      }));
    const row = db
      .insert(snapshot)
      .values({
        ...{
          siteId,
          pageId,
          day,
          lastDay: day,
          takenAt: at,
          lastSeenAt: at,
          title: evidence.title,
          evidence: text,
        },
        differences: differences ? JSON.stringify(differences) : null,
      })
      .returning()
      .get();
    return fromRow(row);
  });
}

/** Notes that a page could not be fetched, and why. */
export async function keepFailure(db: Db, siteId: number, pageId: number, failure: string): Promise<void> {
  await write(db, () => noteLook(db, siteId, pageId, { lastTriedAt: timestamp(), failure }));
}

/** Says whether pages are fetched every day. */
export async function setWatched(
  db: Db,
  siteId: number,
  pageIds: readonly number[],
  watched: boolean,
): Promise<void> {
  await write(db, () => pageIds.forEach((id) => noteLook(db, siteId, id, { watched })));
}

function noteLook(db: Db, siteId: number, pageId: number, values: Partial<PageLook>): void {
  db.insert(pageLook)
    .values({ siteId, pageId, ...values })
    .onConflictDoUpdate({ target: pageLook.pageId, set: values })
    .run();
}

export function lookOf(db: Db, pageId: number): PageLook {
  const row = db.select().from(pageLook).where(eq(pageLook.pageId, pageId)).get();
  return {
    watched: row?.watched ?? false,
    lastTriedAt: row?.lastTriedAt ?? null,
    failure: row?.failure ?? null,
  };
}

/** Watched pages of a site by id. */
export function watchedPages(db: Db, siteId: number): Set<number> {
  const rows = db
    .select({ id: pageLook.pageId })
    .from(pageLook)
    .where(and(eq(pageLook.siteId, siteId), eq(pageLook.watched, true)))
    .all();
  return new Set(rows.map(({ id }) => id));
}

/** A watched page is fetched again after this long, a little less than a day so that its hour does not wander. */
const LOOK_AGAIN_MS = 23 * 3600 * 1000;

/** The watched page that has waited longest, of those whose turn it is at an instant; null where there is none. */
export function dueLook(db: Db, now: number): { siteId: number; page: PageRef } | null {
  const before = new Date(now - LOOK_AGAIN_MS).toISOString();
  const row = db
    .select({ siteId: pageLook.siteId, id: page.id, address: page.address })
    .from(pageLook)
    .innerJoin(page, eq(page.id, pageLook.pageId))
    .where(
      and(
        eq(pageLook.watched, true),
        sql`(${pageLook.lastTriedAt} IS NULL OR ${pageLook.lastTriedAt} < ${before})`,
      ),
    )
    .orderBy(asc(pageLook.lastTriedAt))
    .get();
  return row ? { siteId: row.siteId, page: { id: row.id, address: row.address } } : null;
}

/** Other pages of a site whose last snapshot has this title. */
export function pagesTitled(db: Db, siteId: number, title: string, except: number): PageRef[] {
  const last = db
    .select({ id: sql<number>`max(${snapshot.id})` })
    .from(snapshot)
    .where(eq(snapshot.siteId, siteId))
    .groupBy(snapshot.pageId);
  return db
    .selectDistinct({ id: page.id, address: page.address })
    .from(snapshot)
    .innerJoin(named, eq(named.id, snapshot.pageId))
    .innerJoin(page, eq(page.id, nowPage))
    .where(
      and(
        eq(snapshot.siteId, siteId),
        eq(snapshot.title, title),
        inArray(snapshot.id, last),
        ne(page.id, except),
      ),
    )
    .orderBy(asc(page.address))
    .limit(20)
    .all();
}

/** Says of what a snapshot differs in that it is nothing to log, or takes that back. */
export async function passOver(db: Db, siteId: number, id: number, passedOver: boolean): Promise<void> {
  await write(db, () =>
    db
      .update(snapshot)
      .set({ passedOver })
      .where(and(eq(snapshot.id, id), eq(snapshot.siteId, siteId)))
      .run(),
  );
}

/** What a snapshot of a page shows that nobody logged. */
export type Unlogged = {
  readonly snapshotId: number;
  readonly page: PageRef;
  /** The days between which it was done: those of the two snapshots. */
  readonly from: Day;
  readonly to: Day;
  readonly differences: readonly Difference[];
};

/** Differences are offered for logging so long. */
const OFFERED_DAYS = 60;
const MOST_OFFERED = 200;

/** Differences between snapshots of a site's pages that nobody logged and nobody passed over, the last first. */
export function unloggedOn(db: Db, site: Site): Unlogged[] {
  const rows = db
    .select({
      id: snapshot.id,
      day: snapshot.day,
      text: snapshot.differences,
      pageId: page.id,
      address: page.address,
    })
    .from(snapshot)
    .innerJoin(named, eq(named.id, snapshot.pageId))
    .innerJoin(page, eq(page.id, nowPage))
    .where(
      and(
        eq(snapshot.siteId, site.id),
        eq(snapshot.passedOver, false),
        isNotNull(snapshot.differences),
        gte(snapshot.day, addDays(today(), -OFFERED_DAYS)),
      ),
    )
    .orderBy(desc(snapshot.id))
    .limit(MOST_OFFERED)
    .all();
  if (rows.length === 0) return [];
  const changesOn = new Map<number, Change[]>();
  for (const change of listChanges(db, site.id))
    for (const { id } of change.pages) changesOn.set(id, [...(changesOn.get(id) ?? []), change]);
  return rows.flatMap(({ id, day, text, pageId, address }): Unlogged[] => {
    const [from, to] = [lastSeenBefore(db, pageId, id), asDay(day)];
    const differences = unloggedOf(JSON.parse(text!) as Difference[], from, to, changesOn.get(pageId) ?? []);
    return differences.length === 0
      ? []
      : [{ snapshotId: id, page: { id: pageId, address }, from, to, differences }];
  });
}

/** The day on which a page was last seen as it was before a snapshot. */
function lastSeenBefore(db: Db, pageId: number, id: number): Day {
  const row = db
    .select({ day: snapshot.lastDay })
    .from(snapshot)
    .innerJoin(named, eq(named.id, snapshot.pageId))
    .where(and(eq(nowPage, pageId), lt(snapshot.id, id)))
    .orderBy(desc(snapshot.id))
    .get();
  return asDay(row?.day ?? 0);
}

/** Titles that a page had, by its snapshots and the changes made on it, other than the one that it has now. */
export function earlierTitles(db: Db, pageId: number, now: string | null): string[] {
  const seen = snapshotsOf(db, pageId).map(({ evidence }) => evidence.title);
  const logged = changesOnPages(db, [pageId])
    .filter(isMade)
    .flatMap(({ kind, oldText, newText, parts }) => [
      { kind, page: null, oldText, newText },
      ...parts.filter((part) => part.page === null || part.page.id === pageId),
    ])
    .filter(({ kind }) => kind === 'title-rewrite' || kind === 'undo')
    .flatMap(({ oldText, newText }) => [oldText, newText]);
  const all = [...seen, ...logged].filter((title): title is string => title !== null && title !== now);
  return [...new Set(all)];
}
