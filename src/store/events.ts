import { and, desc, eq, isNull } from 'drizzle-orm';
import { asDay, parseIsoDay, type Day } from '../core/calendar/day';
import type { EventKind, NewEvent, OutsideEvent } from '../core/model/event';
import type { Db } from './database';
import { event } from './schema';
import { timestamp, write } from './write';

function fromRow(row: typeof event.$inferSelect): OutsideEvent {
  const { id, siteId, name, link, note } = row;
  return {
    id,
    siteId,
    name,
    link,
    note,
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

function columnsOf(input: NewEvent) {
  const { name, kind, link, note } = input;
  const firstDay = parseIsoDay(input.firstDay) as Day;
  return {
    name,
    kind,
    link,
    note,
    firstDay,
    lastDay: input.lastDay === null ? firstDay : (parseIsoDay(input.lastDay) as Day),
  };
}

export async function addEvent(db: Db, siteId: number, input: NewEvent): Promise<OutsideEvent> {
  const values = { ...columnsOf(input), siteId, createdAt: timestamp() };
  return fromRow(await write(db, () => db.insert(event).values(values).returning().get()));
}

export async function saveEvent(db: Db, id: number, input: NewEvent): Promise<void> {
  await write(db, () => db.update(event).set(columnsOf(input)).where(eq(event.id, id)).run());
}

/** Marks an event as deleted, or takes that back. */
export async function setEventDeleted(db: Db, id: number, deleted: boolean): Promise<void> {
  const deletedAt = deleted ? timestamp() : null;
  await write(db, () => db.update(event).set({ deletedAt }).where(eq(event.id, id)).run());
}
