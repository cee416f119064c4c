import { markDeleted } from '../markDeleted';
import { and, asc, eq, isNull } from 'drizzle-orm';
import { asDay, isoDay, parseIsoDay, type Day } from '../../core/calendar/day';
import type { NewRoutine, Routine, RoutineDone, RoutineStep } from '../../core/routines/routine';
import { setAuditTarget } from '../acting';
import type { Db } from '../database';
import { InputError } from '../inputError';
import { routine, routineDone } from '../schema';
import { timestamp, write } from '../write';

const asRoutine = (row: typeof routine.$inferSelect): Routine => ({
  ...{ id: row.id, siteId: row.siteId, name: row.name, rule: row.rule, firstDay: asDay(row.firstDay) },
  steps: JSON.parse(row.steps) as RoutineStep[],
});

/** The routines of a site by name. */
export function listRoutines(db: Db, siteId: number): Routine[] {
  return db
    .select()
    .from(routine)
    .where(and(eq(routine.siteId, siteId), isNull(routine.deletedAt)))
    .orderBy(asc(routine.name), asc(routine.id))
    .all()
    .map(asRoutine);
}

/** A routine of a site; null where it has none of that number. */
export function findRoutine(db: Db, siteId: number, id: number): Routine | null {
  return listRoutines(db, siteId).find((one) => one.id === id) ?? null;
}

/** A routine by its number alone; null where there is none. */
export function routineOfNumber(db: Db, id: number): Routine | null {
  const row = db
    .select()
    .from(routine)
    .where(and(eq(routine.id, id), isNull(routine.deletedAt)))
    .get();
  return row ? asRoutine(row) : null;
}

const columnsOf = ({ name, steps, rule, firstDay }: NewRoutine) => ({
  ...{ name, steps: JSON.stringify(steps), firstDay: parseIsoDay(firstDay)! },
  rule: rule.replace(/^RRULE:/i, '').toUpperCase(),
});

/** A stored routine as its form sends it. */
export const inputOfRoutine = ({ name, steps, rule, firstDay }: Routine): NewRoutine => ({
  ...{ name, steps: [...steps], rule, firstDay: isoDay(firstDay) },
});

/**
 * Keeps a new routine, or (by its number) an edited one, which `edit` makes of what it says now;
 * gives its number. Throws InputError.
 */
export async function keepRoutine(
  db: Db,
  siteId: number,
  id: number | null,
  given: NewRoutine,
  edit: (now: NewRoutine) => NewRoutine = () => given,
): Promise<number> {
  return write(db, () => {
    if (id === null) {
      const values = { siteId, ...columnsOf(given), createdAt: timestamp() };
      const made = db.insert(routine).values(values).returning({ id: routine.id }).get();
      return setAuditTarget('routine', made.id, given.name);
    }
    const now = findRoutine(db, siteId, id);
    if (!now) throw new InputError('root', 'That routine is no longer there.', 409);
    const edited = edit(inputOfRoutine(now));
    db.update(routine).set(columnsOf(edited)).where(eq(routine.id, id)).run();
    return setAuditTarget('routine', id, edited.name);
  });
}

/** Takes a routine away, or puts it back. */
export async function setRoutineDeleted(
  db: Db,
  siteId: number,
  id: number,
  deleted: boolean,
): Promise<boolean> {
  return write(db, () => markDeleted(db, routine, id, deleted, siteId));
}

/** What was ticked off of a routine, with when (ISO 8601, UTC). */
export function doneOf(db: Db, routineId: number): (RoutineDone & { readonly at: string })[] {
  return db
    .select()
    .from(routineDone)
    .where(eq(routineDone.routineId, routineId))
    .orderBy(asc(routineDone.dueOn), asc(routineDone.step))
    .all()
    .map(({ dueOn, step, person, at }) => ({ dueOn: asDay(dueOn), step, person, at }));
}

/** Ticks a step off for a due day, or takes that back. Throws InputError. */
export async function tickStep(
  db: Db,
  siteId: number,
  id: number,
  { dueOn, step, person }: { readonly dueOn: Day; readonly step: number; readonly person: string | null },
  done: boolean,
  at = timestamp(),
): Promise<void> {
  await write(db, () => {
    const found = findRoutine(db, siteId, id);
    if (!found || step >= found.steps.length)
      throw new InputError('root', 'That step is no longer there.', 409);
    db.delete(routineDone)
      .where(and(eq(routineDone.routineId, id), eq(routineDone.dueOn, dueOn), eq(routineDone.step, step)))
      .run();
    if (done) db.insert(routineDone).values({ routineId: id, dueOn, step, person, at }).run();
  });
}
