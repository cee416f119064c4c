import { and, asc, desc, eq, inArray, lt, sql } from 'drizzle-orm';
import { addDays, asDay, type Day } from '../../core/calendar/day';
import { differencesBetween, type Difference } from '../../core/markup/differences';
import { unloggedOf } from '../../core/markup/unlogged';
import type { Change, PageRef } from '../../core/model/change';
import type { PageEvidence, Snapshot } from '../../core/model/evidence';
import type { Site } from '../../core/model/site';
import { isMade } from '../../core/model/steps';
import { listChanges } from '../ledger/findChanges';
import { today } from '../clock';
import { standingSite } from '../standing';
import { prepared, type Db } from '../database';
import { namesOf } from '../addresses/namedPage';
import { page, pageLook, snapshot } from '../schema';
import { timestamp, write } from '../write';

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

/** So many snapshots are listed at a time. */
export const SNAPSHOTS_SHOWN = 50;

/** The snapshots of a page, the last first: the last ones, or those before one. */
export function snapshotsOf(
  db: Db,
  pageId: number,
  most = SNAPSHOTS_SHOWN,
  before = Number.MAX_SAFE_INTEGER,
): KeptSnapshot[] {
  return db
    .select()
    .from(snapshot)
    .where(and(inArray(snapshot.pageId, namesOf(db, [pageId])), lt(snapshot.id, before)))
    .orderBy(desc(snapshot.id))
    .limit(most)
    .all()
    .map(fromRow);
}

export function findSnapshot(db: Db, id: number): KeptSnapshot | null {
  const row = db.select().from(snapshot).where(eq(snapshot.id, id)).get();
  return row ? fromRow(row) : null;
}

/** The page that a snapshot is of, by the rules of now. */
export function pageOfSnapshot(db: Db, { pageId }: Snapshot): PageRef | null {
  return (
    prepared<[number], PageRef>(
      db,
      'SELECT p.id, p.address FROM page n JOIN page p ON p.id = coalesce(n.into_id, n.id) WHERE n.id = ?',
    ).get(pageId) ?? null
  );
}

/** The titles that the last snapshots of a page have, the last first, and the last day on which each was seen. */
export function titlesOf(db: Db, pageId: number): { readonly title: string | null; readonly lastDay: Day }[] {
  return db
    .select({ title: snapshot.title, lastDay: snapshot.lastDay })
    .from(snapshot)
    .where(inArray(snapshot.pageId, namesOf(db, [pageId])))
    .orderBy(desc(snapshot.id))
    .limit(50)
    .all()
    .map(({ title, lastDay }) => ({ title, lastDay: asDay(lastDay) }));
}

/** The last snapshot of each page of a site, without what it says. Of pages that became one, the newest. */
export function latestSnapshots(
  db: Db,
  siteId: number,
): { readonly id: number; readonly pageId: number; readonly title: string | null }[] {
  const rows = prepared<[number], { id: number; pageId: number; title: string | null }>(
    db,
    `SELECT s.id, coalesce(p.into_id, p.id) AS pageId, s.title FROM (
       SELECT max(id) AS id FROM snapshot WHERE site_id = ? GROUP BY page_id
     ) l JOIN snapshot s ON s.id = l.id JOIN page p ON p.id = s.page_id ORDER BY s.id`,
  ).all(siteId);
  return [...new Map(rows.map((row) => [row.pageId, row])).values()];
}

/** The titles or descriptions that a page had before the one it has, and the last day on which each was seen, the newest first. */
export function earlierTexts(
  db: Db,
  pageId: number,
  of: 'title' | 'description',
): { readonly text: string; readonly lastDay: Day }[] {
  return snapshotsOf(db, pageId, SNAPSHOTS_SHOWN)
    .slice(1)
    .flatMap(({ evidence, lastDay }) => (evidence[of] ? [{ text: evidence[of], lastDay }] : []));
}

/** The title of each page of a site as it was last fetched, by page. */
export function latestTitles(db: Db, siteId: number): Map<number, string> {
  return new Map(
    latestSnapshots(db, siteId).flatMap(({ pageId, title }) =>
      title === null ? [] : [[pageId, title] as const],
    ),
  );
}

/** What each page of a site said when it was fetched last, and the last day on which it said so, by page. */
export function latestEvidence(
  db: Db,
  siteId: number,
): Map<number, { readonly evidence: PageEvidence; readonly lastDay: Day }> {
  const rows = prepared<[number], [page: number, evidence: string, lastDay: number]>(
    db,
    `SELECT coalesce(p.into_id, p.id), s.evidence, s.last_day FROM (
       SELECT max(id) AS id FROM snapshot WHERE site_id = ? GROUP BY page_id
     ) l JOIN snapshot s ON s.id = l.id JOIN page p ON p.id = s.page_id ORDER BY s.id`,
  )
    .raw()
    .all(siteId);
  return new Map(
    rows.map(([page, evidence, lastDay]) => [
      page,
      { evidence: JSON.parse(evidence) as PageEvidence, lastDay: asDay(lastDay) },
    ]),
  );
}

const MOST_TEXT_KEPT = 20_000;

/** In what two snapshots differ, as it is kept: of long texts their beginning. */
export function differencesKept(before: PageEvidence, after: PageEvidence): Difference[] {
  const cut = (one: string | null) => one && one.slice(0, MOST_TEXT_KEPT);
  return differencesBetween(before, after).map((one) => ({
    ...one,
    before: cut(one.before),
    after: cut(one.after),
  }));
}

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
    const differences = last && differencesKept(last.evidence, evidence);
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
        standingSite(pageLook.siteId),
        sql`(${pageLook.lastTriedAt} IS NULL OR ${pageLook.lastTriedAt} < ${before})`,
      ),
    )
    .orderBy(asc(pageLook.lastTriedAt))
    .get();
  return row ? { siteId: row.siteId, page: { id: row.id, address: row.address } } : null;
}

/** Other pages of a site whose last snapshot has this title. */
export function pagesTitled(db: Db, siteId: number, title: string, except: number): PageRef[] {
  return prepared<[number, string, number], PageRef>(
    db,
    `SELECT DISTINCT p.id, p.address
     FROM snapshot s JOIN page n ON n.id = s.page_id JOIN page p ON p.id = coalesce(n.into_id, n.id)
     WHERE s.site_id = ? AND s.title = ? AND p.id <> ?
       AND NOT EXISTS (SELECT 1 FROM snapshot later WHERE later.page_id = s.page_id AND later.id > s.id)
     ORDER BY p.address LIMIT 20`,
  ).all(siteId, title, except);
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

type UnloggedRow = {
  readonly id: number;
  readonly day: Day;
  readonly text: string;
  /** The day on which the page was last seen as it was before. */
  readonly before: Day;
  readonly pageId: number;
  readonly address: string;
};

const UNLOGGED = `
  SELECT s.id, s.day, s.differences AS text, p.id AS pageId, p.address,
    (SELECT b.last_day FROM snapshot b WHERE b.page_id = s.page_id AND b.id < s.id ORDER BY b.id DESC LIMIT 1) AS before
  FROM snapshot s JOIN page n ON n.id = s.page_id JOIN page p ON p.id = coalesce(n.into_id, n.id)
  WHERE s.site_id = ? AND s.day >= ? AND s.differences IS NOT NULL AND s.passed_over = 0
  ORDER BY s.id DESC LIMIT ${MOST_OFFERED}`;

/** Differences between snapshots of a site's pages that nobody logged and nobody passed over, the last first. */
export function unloggedOn(
  db: Db,
  { id: siteId }: Pick<Site, 'id'>,
  changes?: readonly Change[],
  since: Day = addDays(today(), -OFFERED_DAYS),
): Unlogged[] {
  const rows = prepared<[number, Day], UnloggedRow>(db, UNLOGGED).all(siteId, since);
  if (rows.length === 0) return [];
  const changesOn = new Map<number, Change[]>();
  for (const change of changes ?? listChanges(db, siteId))
    for (const { id } of change.pages) changesOn.set(id, [...(changesOn.get(id) ?? []), change]);
  return rows.flatMap(({ id, day, text, before, pageId, address }): Unlogged[] => {
    const all = JSON.parse(text) as Difference[];
    const differences = unloggedOf(all, before, day, changesOn.get(pageId) ?? []);
    return differences.length === 0
      ? []
      : [{ snapshotId: id, page: { id: pageId, address }, from: before, to: day, differences }];
  });
}

/** Titles that a page had, by its snapshots and the changes made on it, other than the one that it has now. */
export function earlierTitles(
  snapshots: readonly { readonly title: string | null }[],
  changesOnPage: readonly Change[],
  pageId: number,
): string[] {
  const now = snapshots[0]?.title ?? null;
  const logged = changesOnPage
    .filter(isMade)
    .flatMap(({ kind, oldText, newText, parts }) => [
      { kind, page: null, oldText, newText },
      ...parts.filter((part) => part.page === null || part.page.id === pageId),
    ])
    .filter(({ kind }) => kind === 'title-rewrite' || kind === 'undo')
    .flatMap(({ oldText, newText }) => [oldText, newText]);
  const all = [...snapshots.map(({ title }) => title), ...logged];
  return [...new Set(all.filter((title): title is string => title !== null && title !== now))];
}
