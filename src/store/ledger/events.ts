import { markDeleted } from '../markDeleted';
import { and, desc, eq, isNull, lt } from 'drizzle-orm';
import { asDay, isoDay, parseIsoDay, type Day } from '../../core/calendar/day';
import type { EventKind, NewEvent, OutsideEvent, PastEvent } from '../../core/model/event';
import { actingNow, setAuditTarget } from '../acting';
import type { Db } from '../database';
import { InputError } from '../inputError';
import { event, eventHistory } from '../schema';
import { timestamp, write, type Guard } from '../write';
import { HISTORY_SHOWN } from './changeHistory';

function fromRow(row: typeof event.$inferSelect): OutsideEvent {
  const { id, siteId, name, link, note } = row;
  return {
    id,
    siteId,
    name,
    link,
    note,
    group: row.pages,
    hidden: row.hidden,
    kind: row.kind as EventKind,
    firstDay: asDay(row.firstDay),
    lastDay: asDay(row.lastDay),
  };
}

/** The almanac of a site, newest first, without what was deleted. */
export function listEvents(db: Db, siteId: number): OutsideEvent[] {
  return db
    .select()
    .from(event)
    .where(and(eq(event.siteId, siteId), isNull(event.deletedAt)))
    .orderBy(desc(event.firstDay), desc(event.id))
    .all()
    .map(fromRow);
}

export function findEvent(db: Db, id: number): OutsideEvent | null {
  const row = db.select().from(event).where(eq(event.id, id)).get();
  return row ? fromRow(row) : null;
}

/** One event that was not deleted. */
export function findStandingEvent(db: Db, id: number): OutsideEvent | null {
  const row = db
    .select()
    .from(event)
    .where(and(eq(event.id, id), isNull(event.deletedAt)))
    .get();
  return row ? fromRow(row) : null;
}

function columnsOf(input: NewEvent) {
  const { name, kind, link, note, group, hidden } = input;
  const firstDay = parseIsoDay(input.firstDay) as Day;
  return {
    name,
    kind,
    link,
    note,
    pages: group,
    hidden,
    firstDay,
    lastDay: input.lastDay === null ? firstDay : (parseIsoDay(input.lastDay) as Day),
  };
}

export async function addEvent(db: Db, siteId: number, input: NewEvent): Promise<OutsideEvent> {
  const values = { ...columnsOf(input), siteId, createdAt: timestamp() };
  return write(db, () => {
    const row = db.insert(event).values(values).returning().get();
    setAuditTarget('event', row.id, row.name);
    return fromRow(row);
  });
}

/** Notes several events at once, those that are noted already left out. Gives how many are new. */
export async function addEvents(db: Db, siteId: number, inputs: readonly NewEvent[]): Promise<number> {
  return write(db, () => {
    const key = (e: { name: string; firstDay: number; lastDay: number }) =>
      `${e.name}/${e.firstDay}/${e.lastDay}`;
    const known = new Set(listEvents(db, siteId).map(key));
    let added = 0;
    for (const input of inputs) {
      const columns = columnsOf(input);
      if (known.has(key(columns))) continue;
      known.add(key(columns));
      db.insert(event)
        .values({ ...columns, siteId, createdAt: timestamp() })
        .run();
      added++;
    }
    return added;
  });
}

/** Edits an event, and keeps what it said before in its history. */
export async function saveEvent(db: Db, id: number, input: NewEvent, guard: Guard = () => {}): Promise<void> {
  await write(db, () => {
    keepHistory(db, id, guard);
    db.update(event).set(columnsOf(input)).where(eq(event.id, id)).run();
  });
}

/**
 * Starts an edit: checks that the event still exists, and keeps its present state in the history.
 * Throws InputError.
 */
function keepHistory(db: Db, id: number, guard: Guard): void {
  const was = findStandingEvent(db, id);
  if (!was)
    throw new InputError('root', 'The event was deleted meanwhile; put it back before it is edited.', 409);
  guard();
  db.insert(eventHistory)
    .values({ eventId: id, at: timestamp(), ...actingNow(), was: JSON.stringify(was) })
    .run();
}

/** Earlier states of an event, last edit first: the last ones, or those before an entry. */
export function eventHistoryOf(db: Db, id: number, before = Number.MAX_SAFE_INTEGER): PastEvent[] {
  return db
    .select()
    .from(eventHistory)
    .where(and(eq(eventHistory.eventId, id), lt(eventHistory.id, before)))
    .orderBy(desc(eventHistory.id))
    .limit(HISTORY_SHOWN)
    .all()
    .map(pastEvent);
}

function pastEvent({ id, at, actor, actorId, was }: typeof eventHistory.$inferSelect): PastEvent {
  return { id, at, actor, actorId, was: JSON.parse(was) as OutsideEvent };
}

/** Lets an event say again what it said before one of its edits. */
export async function restoreEvent(db: Db, id: number, entry: number): Promise<boolean> {
  const row = db
    .select()
    .from(eventHistory)
    .where(and(eq(eventHistory.id, entry), eq(eventHistory.eventId, id)))
    .get();
  if (!row) return false;
  const { was } = pastEvent(row);
  await saveEvent(db, id, { ...was, firstDay: isoDay(was.firstDay), lastDay: isoDay(was.lastDay) });
  return true;
}

/** Marks an event as deleted, or takes that back. */
export async function setEventDeleted(
  db: Db,
  id: number,
  deleted: boolean,
  guard: Guard = () => {},
): Promise<boolean> {
  return write(db, () => {
    guard();
    return markDeleted(db, event, id, deleted);
  });
}
