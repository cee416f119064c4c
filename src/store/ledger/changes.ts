/* Changes as they are logged and edited. */

import { markDeleted } from '../markDeleted';
import { and, eq } from 'drizzle-orm';
import { addDays, type Day } from '../../core/calendar/day';
import type { Change, NewChange } from '../../core/model/change';
import type { NewDecision, NewStep } from '../../core/model/steps';
import type { Site } from '../../core/model/site';
import { storePages } from './changePages';
import { setAuditTarget } from '../acting';
import type { Db } from '../database';
import { today } from '../clock';
import { InputError } from '../inputError';
import { change, idempotency } from '../schema';
import { keepTakenOpening } from '../rounds/takenOpenings';
import { timestamp, write, type Guard } from '../write';
import { keepHistory } from './changeHistory';
import {
  checkFollowed,
  columnsOf,
  day,
  dropStrayParts,
  storeParts,
  storeQueries,
  storeStep,
  storeTags,
} from './changeRows';
import { findChange } from './findChanges';

const NO_GUARD: Guard = () => {};

/** Stores a new change and gives its id. Must run in a transaction. Throws InputError. */
export function insertChange(
  db: Db,
  site: Site,
  input: NewChange,
  from: { readonly importId: number; readonly importKey: string } | null = null,
): number {
  checkFollowed(db, site.id, null, input.followsId);
  const { id } = db
    .insert(change)
    .values({
      ...columnsOf(input),
      ...from,
      siteId: site.id,
      title: input.title,
      kind: input.kind,
      day: day(input.day),
      createdAt: timestamp(),
    })
    .returning({ id: change.id })
    .get();
  storePages(db, site, id, input.pages);
  storeQueries(db, id, input.queries);
  storeTags(db, id, input.tags);
  storeParts(db, site, id, input.parts);
  if (input.opening) keepTakenOpening(db, id, input.opening);
  settlePlan(db, findChange(db, id) as Change, input);
  return setAuditTarget('change', id, input.title);
}

/**
 * Logs a change. A repeated request with the same `key` returns the change logged first. Throws
 * InputError if a URL isn’t of the site, or the key was used for another request.
 */
export async function addChange(
  db: Db,
  site: Site,
  input: NewChange,
  key: string | null = null,
): Promise<Change> {
  const id = await write(db, () => {
    const known = key === null ? null : loggedUnder(db, site.id, key, input);
    if (known !== null) return known;
    const id = insertChange(db, site, input);
    if (key !== null) {
      const request = JSON.stringify(input);
      db.insert(idempotency).values({ siteId: site.id, key, request, changeId: id, at: timestamp() }).run();
    }
    return id;
  });
  return findChange(db, id) as Change;
}

/** The change logged under a key; null if there is none. Throws InputError. */
function loggedUnder(db: Db, siteId: number, key: string, input: NewChange): number | null {
  const row = db
    .select()
    .from(idempotency)
    .where(and(eq(idempotency.siteId, siteId), eq(idempotency.key, key)))
    .get();
  if (!row) return null;
  if (row.request !== JSON.stringify(input))
    throw new InputError('Idempotency-Key', 'This key was used for another request before.', 422);
  if (!findChange(db, row.changeId))
    throw new InputError('Idempotency-Key', 'What this key logged was deleted since; use another key.', 409);
  return row.changeId;
}

/** Throws InputError for days beyond tomorrow, which may be today in the writer’s time zone. */
function refuseToCome(on: Day | null): void {
  if (on !== null && on > addDays(today(), 1))
    throw new InputError('day', 'That day is still to come; only a plan can lie ahead.');
}

/**
 * Records the day of a step, or removes the step. A change is read by the day it was made.
 *
 * @param recordedOn when the step became known: today, unless a ledger is written after the fact
 */
export async function recordStep(
  db: Db,
  id: number,
  { step, day: text }: NewStep,
  guard = NO_GUARD,
  recordedOn: Day = today(),
): Promise<Change> {
  await write(db, () => {
    keepHistory(db, id, guard);
    const on = text === null ? null : day(text);
    if (step !== 'planned') refuseToCome(on);
    storeStep(db, id, step, on, recordedOn);
    if (step === 'made' && on !== null) db.update(change).set({ day: on }).where(eq(change.id, id)).run();
  });
  return findChange(db, id) as Change;
}

/** Records what was decided of a change, or takes it back. */
export async function recordDecision(
  db: Db,
  id: number,
  input: NewDecision,
  guard = NO_GUARD,
): Promise<Change> {
  await write(db, () => {
    keepHistory(db, id, guard);
    const { decision, reason } = input;
    refuseToCome(decision === null ? null : day(input.day));
    db.update(change)
      .set({ decision, decisionReason: decision === null ? null : reason })
      .where(eq(change.id, id))
      .run();
    storeStep(db, id, 'decided', decision === null ? null : day(input.day));
  });
  return findChange(db, id) as Change;
}

/**
 * Settles whether a change is planned, after its day was set or somebody said so; for new and
 * edited changes.
 */
function settlePlan(db: Db, { id, day: on, steps }: Change, edit: Partial<NewChange>): void {
  if (edit.planned === undefined && edit.day === undefined) return;
  // Tomorrow may be today in the writer’s time zone; days further ahead are plans, stated or not.
  if (edit.planned || on > addDays(today(), 1)) {
    if (steps.planned === undefined) storeStep(db, id, 'planned', today());
    storeStep(db, id, 'made', null);
  } else if (steps.made !== undefined || (edit.planned === false && steps.planned !== undefined)) {
    storeStep(db, id, 'made', on);
  }
}

/**
 * Edits the given fields of a change, and keeps its earlier state in the history. Must run in a
 * transaction. Throws InputError.
 */
export function updateChange(
  db: Db,
  site: Site,
  id: number,
  edit: Partial<NewChange>,
  guard = NO_GUARD,
): void {
  keepHistory(db, id, guard);
  if (edit.followsId !== undefined) checkFollowed(db, site.id, id, edit.followsId);
  const columns = Object.fromEntries(
    Object.entries(columnsOf(edit)).filter(([, value]) => value !== undefined),
  );
  if (Object.keys(columns).length > 0) db.update(change).set(columns).where(eq(change.id, id)).run();
  if (edit.pages !== undefined) storePages(db, site, id, edit.pages);
  if (edit.queries !== undefined) storeQueries(db, id, edit.queries);
  if (edit.tags !== undefined) storeTags(db, id, edit.tags);
  if (edit.parts !== undefined) storeParts(db, site, id, edit.parts);
  else if (edit.pages !== undefined) dropStrayParts(db, id);
  settlePlan(db, findChange(db, id) as Change, edit);
}

/** The same in a transaction of its own; gives the change as it is then. */
export async function editChange(
  db: Db,
  site: Site,
  id: number,
  edit: Partial<NewChange>,
  guard = NO_GUARD,
): Promise<Change> {
  await write(db, () => updateChange(db, site, id, edit, guard));
  return findChange(db, id) as Change;
}

/**
 * Marks a change as deleted, or restores it; nothing is lost. Resolves to whether this call did it:
 * of two at once only one does.
 */
export async function setChangeDeleted(
  db: Db,
  id: number,
  deleted: boolean,
  guard = NO_GUARD,
): Promise<boolean> {
  return write(db, () => {
    guard();
    return markDeleted(db, change, id, deleted);
  });
}
