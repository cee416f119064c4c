import { markDeleted } from '../markDeleted';
import { and, asc, eq, isNull } from 'drizzle-orm';
import { addDays, type Day } from '../../core/calendar/day';
import type { Span } from '../../core/calendar/span';
import type { NewFeed } from '../../core/model/feed';
import type { Site } from '../../core/model/site';
import { lastReadableDay } from '../../core/reading/readable';
import { standingSite } from '../standing';
import { setAuditTarget } from '../acting';
import { prepared, type Db } from '../database';
import { siteCoverage } from './coverage';
import { feed } from '../schema';
import { timestamp, writeFigures, type Guard } from '../write';

export type FeedRow = typeof feed.$inferSelect;

/** How far back a feed is asked where a site has no figures yet. */
const FIRST_DAYS = 486;
/** A daily feed is asked again after this long, so that it comes round at about the same hour. */
const DAILY_MS = 20 * 3600 * 1000;

export function listFeeds(db: Db, siteId: number): FeedRow[] {
  return db
    .select()
    .from(feed)
    .where(and(eq(feed.siteId, siteId), isNull(feed.deletedAt)))
    .orderBy(asc(feed.id))
    .all();
}

/** Whether a feed, deleted or not, may reach hosts on a private network. */
export function allowsPrivateHosts(db: Db, id: number): boolean {
  return db.select({ allowed: feed.allowPrivate }).from(feed).where(eq(feed.id, id)).get()?.allowed ?? false;
}

export function findFeed(db: Db, id: number): FeedRow | null {
  return (
    db
      .select()
      .from(feed)
      .where(and(eq(feed.id, id), isNull(feed.deletedAt)))
      .get() ?? null
  );
}

export async function addFeed(db: Db, siteId: number, input: NewFeed): Promise<number> {
  const row = { ...input, siteId, state: 'idle' as const, createdAt: timestamp() };
  return writeFigures(db, () => {
    const { id } = db.insert(feed).values(row).returning({ id: feed.id }).get();
    return setAuditTarget('feed', id, input.name);
  });
}

/** Changes what is known of a feed. */
export async function updateFeed(db: Db, id: number, values: Partial<FeedRow>): Promise<void> {
  await writeFigures(db, () => db.update(feed).set(values).where(eq(feed.id, id)).run());
}

/** Takes a feed away, or puts it back; what it brought stays either way. */
export async function setFeedDeleted(
  db: Db,
  id: number,
  deleted: boolean,
  guard: Guard = () => {},
): Promise<boolean> {
  return writeFigures(db, () => {
    guard();
    return markDeleted(db, feed, id, deleted);
  });
}

/** Feeds that are due: requested, interrupted, or with a day to fetch. */
export function dueFeeds(db: Db, now: number): FeedRow[] {
  const rows = db
    .select()
    .from(feed)
    .where(and(isNull(feed.deletedAt), standingSite(feed.siteId)))
    .orderBy(asc(feed.id))
    .all();
  const due = ({ state, daily, lastTriedAt }: FeedRow) =>
    state !== 'idle' || (daily && (lastTriedAt === null || now - Date.parse(lastTriedAt) > DAILY_MS));
  return rows.filter(due);
}

/**
 * The days to fetch: from the first that isn’t final. Days that were provisional are fetched again.
 */
export function daysToAsk(db: Db, site: Site, feedId: number, today: Day): Span {
  const own = prepared<[number], { lastDay: Day; takenOn: Day }>(
    db,
    `SELECT d.day AS lastDay, max(i.taken_on) AS takenOn FROM import i JOIN import_day d ON d.import_id = i.id
     WHERE i.feed_id = ? AND i.state = 'done' GROUP BY d.day ORDER BY d.day DESC LIMIT 1`,
  ).get(feedId);
  const coverage = own ?? siteCoverage(db, site.id);
  const firstDay = coverage
    ? addDays(lastReadableDay(coverage, site.provisionalDays), 1)
    : addDays(today, -FIRST_DAYS);
  return { firstDay: firstDay > today ? today : firstDay, lastDay: today };
}

/** The feeds that are being fetched, or were when the process ended. */
export function fetchingFeeds(db: Db): number[] {
  return prepared<[], number>(db, "SELECT id FROM feed WHERE state = 'fetching' AND deleted_at IS NULL")
    .pluck()
    .all();
}
