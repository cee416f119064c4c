import { and, asc, desc, eq, inArray, isNotNull, isNull, lt, notInArray } from 'drizzle-orm';
import { addDays, parseIsoDay, type Day } from '../../core/calendar/day';
import { normaliseQuery } from '../../core/intake/rowReader';
import type { Change, NewChange } from '../../core/model/change';
import type { PastChange } from '../../core/model/changeHistory';
import { STEPS, type NewDecision, type NewStep, type Step } from '../../core/model/steps';
import type { Site } from '../../core/model/site';
import { keyOfWritten, replacePages, storePages, writtenIn } from './changePages';
import { withParts } from './changeParts';
import { actorNow, tellThing } from '../acting';
import { prepared, type Db } from '../database';
import { today } from '../clock';
import { InputError } from '../inputError';
import { namesOf } from '../addresses/namedPage';
import {
  change,
  changeHistory,
  changePage,
  changePart,
  changeQuery,
  changeStep,
  changeTag,
  idempotency,
} from '../schema';
import { keepTakenOpening } from '../rounds/takenOpenings';
import { timestamp, write, type Guard } from '../write';

/** The changes of a site that were not deleted, newest first. */
export function listChanges(db: Db, siteId: number): Change[] {
  const rows = db
    .select()
    .from(change)
    .where(and(eq(change.siteId, siteId), isNull(change.deletedAt)))
    .orderBy(desc(change.day), desc(change.id))
    .all();
  return withParts(db, rows);
}

/** The change of the latest day, of several the one that was logged last; null where there is none. */
export function newestChange(db: Db, siteId: number): Change | null {
  const row = db
    .select()
    .from(change)
    .where(and(eq(change.siteId, siteId), isNull(change.deletedAt)))
    .orderBy(desc(change.day), desc(change.id))
    .limit(1)
    .get();
  return row ? (withParts(db, [row])[0] ?? null) : null;
}

/** One change, also where it was deleted if `deleted` says so; null where there is none. */
export function findChange(db: Db, id: number, deleted = false): Change | null {
  const row = db.select().from(change).where(eq(change.id, id)).get();
  if (!row || (row.deletedAt !== null && !deleted)) return null;
  return withParts(db, [row])[0] ?? null;
}

/** The changes that touched any of these pages, newest first. */
export function changesOnPages(db: Db, pageIds: readonly number[]): Change[] {
  if (pageIds.length === 0) return [];
  const rows = db
    .selectDistinct({ change })
    .from(change)
    .innerJoin(changePage, eq(changePage.changeId, change.id))
    .where(and(inArray(changePage.pageId, namesOf(db, pageIds)), isNull(change.deletedAt)))
    .orderBy(desc(change.day), desc(change.id))
    .all();
  return withParts(
    db,
    rows.map((row) => row.change),
  );
}

/** A validated ISO day as the number that is stored. */
function day(text: string): Day {
  return parseIsoDay(text) as Day;
}

/** The columns of a change for those fields that were given. */
function columnsOf(input: Partial<NewChange>): Partial<typeof change.$inferInsert> {
  const { title, kind, oldText, newText, windowDays, settlingDays, person, link, note, expectation } = input;
  const { followsId } = input;
  const plain = { title, kind, oldText, newText, windowDays, settlingDays, person, link, note, followsId };
  return {
    ...plain,
    ...(input.day === undefined ? {} : { day: day(input.day) }),
    ...(expectation === undefined
      ? {}
      : {
          expectedMetric: expectation?.metric ?? null,
          expectedDirection: expectation?.direction ?? null,
          expectedAmount: expectation?.amount ?? null,
          reviewDay: expectation?.reviewDay ? day(expectation.reviewDay) : null,
        }),
  };
}

function storeQueries(db: Db, changeId: number, queries: readonly string[]): void {
  db.delete(changeQuery).where(eq(changeQuery.changeId, changeId)).run();
  for (const text of new Set(queries.map(normaliseQuery)))
    db.insert(changeQuery).values({ changeId, text }).run();
}

function storeTags(db: Db, changeId: number, tags: readonly string[]): void {
  db.delete(changeTag).where(eq(changeTag.changeId, changeId)).run();
  for (const tag of tags) db.insert(changeTag).values({ changeId, tag }).run();
}

/** Throws InputError where a part names a page that the change does not. */
function storeParts(db: Db, site: Site, changeId: number, parts: NewChange['parts']): void {
  const keyOf = keyOfWritten(db, site);
  const had = db
    .select({ address: changePart.address })
    .from(changePart)
    .where(eq(changePart.changeId, changeId))
    .all();
  // As with the pages of a change: an address stays as it was written first.
  const writtenFirst = new Map(had.flatMap(({ address }) => (address ? [[keyOf(address), address]] : [])));
  const stored = parts.map((part, place) => {
    const written = part.page === null ? null : writtenIn(site, part.page, `parts.${place}.page`);
    return { ...part, page: written && (writtenFirst.get(keyOf(written)) ?? written) };
  });
  replaceParts(db, site, changeId, stored);
}

/** Stores the parts of a change with the addresses just as they were written. */
function replaceParts(db: Db, site: Site, changeId: number, parts: NewChange['parts']): void {
  db.delete(changePart).where(eq(changePart.changeId, changeId)).run();
  const keyOf = keyOfWritten(db, site);
  const pages = new Map(
    (findChange(db, changeId, true) as Change).pages.map(({ id, address }) => [address, id]),
  );
  parts.forEach(({ kind, page: address, oldText, newText }, place) => {
    const pageId = address === null ? null : pages.get(keyOf(address));
    if (pageId === undefined)
      throw new InputError(`parts.${place}.page`, `${address} is not among the pages of the change.`);
    db.insert(changePart).values({ changeId, place, kind, oldText, newText, address, pageId }).run();
  });
}

/** Texts of pages that are no longer among those of the change go with them. */
function dropStrayParts(db: Db, changeId: number): void {
  const pages = db
    .select({ id: changePage.pageId })
    .from(changePage)
    .where(eq(changePage.changeId, changeId));
  db.delete(changePart)
    .where(
      and(
        eq(changePart.changeId, changeId),
        isNotNull(changePart.pageId),
        notInArray(changePart.pageId, pages),
      ),
    )
    .run();
}

/**
 * Whatever writes what a change follows comes by here: a change of the same site that stands, not itself, and none that follows
 * it. Throws InputError.
 */
function checkFollowed(db: Db, siteId: number, id: number | null, followsId: number | null): void {
  if (followsId === null) return;
  if (followsId === id) throw new InputError('followsId', 'A change cannot follow itself.');
  if (findChange(db, followsId)?.siteId !== siteId)
    throw new InputError('followsId', `There is no change ${followsId} on this site.`);
  const next = prepared<[number], number | null>(db, 'SELECT follows_id FROM change WHERE id = ?').pluck();
  const seen = new Set<number>();
  for (let at: number | null | undefined = followsId; at != null && !seen.has(at); at = next.get(at)) {
    if (at === id) throw new InputError('followsId', `Change ${followsId} follows this one already.`);
    seen.add(at);
  }
}

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
  return tellThing('change', id, input.title);
}

/**
 * Logs a change. A request that names itself (`key`) and was answered before gives the change that it logged then.
 * Throws InputError where an address does not belong to the site, or the key was used for another request.
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

/** The change that a request under a key has logged, or null where there was none. Throws InputError. */
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

/** Sets the day of a step, or takes the step back. */
function storeStep(db: Db, changeId: number, step: Step, on: Day | null): void {
  db.delete(changeStep)
    .where(and(eq(changeStep.changeId, changeId), eq(changeStep.step, step)))
    .run();
  if (on !== null) db.insert(changeStep).values({ changeId, step, day: on, at: timestamp() }).run();
}

const NO_GUARD: Guard = () => {};

/** Begins an edit: sees that the change is there still, and keeps what it says in its history. Throws InputError. */
function keepHistory(db: Db, id: number, guard: Guard): void {
  const was = findChange(db, id);
  if (!was)
    throw new InputError('root', 'The change was deleted meanwhile; put it back before it is edited.', 409);
  guard();
  db.insert(changeHistory)
    .values({ changeId: id, at: timestamp(), actor: actorNow(), was: JSON.stringify(was) })
    .run();
}

/** Tomorrow may be today where somebody writes from; what lies further ahead has not happened. Throws InputError. */
function refuseToCome(on: Day | null): void {
  if (on !== null && on > addDays(today(), 1))
    throw new InputError('day', 'That day is still to come; only a plan can lie ahead.');
}

/** Records the day of a step, or takes it back. The day on which a change was made is the one it is read by. */
export async function recordStep(
  db: Db,
  id: number,
  { step, day: text }: NewStep,
  guard = NO_GUARD,
): Promise<Change> {
  await write(db, () => {
    keepHistory(db, id, guard);
    const on = text === null ? null : day(text);
    if (step !== 'planned') refuseToCome(on);
    storeStep(db, id, step, on);
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

/** The changes of a site that follow one another with a change among them, the first first; none where it stands alone. */
export function chainOf(db: Db, siteId: number, id: number): Change[] {
  // Links lead both ways, and a change may have several that follow it.
  const ids = prepared<[number, number, number], number>(
    db,
    `WITH RECURSIVE chain(id) AS (
       SELECT ?
       UNION SELECT c.id FROM chain JOIN change c ON c.follows_id = chain.id
             WHERE c.deleted_at IS NULL AND c.site_id = ?
       UNION SELECT c.follows_id FROM chain JOIN change c ON c.id = chain.id
             WHERE c.deleted_at IS NULL AND c.site_id = ? AND c.follows_id IS NOT NULL
     ) SELECT id FROM chain`,
  )
    .pluck()
    .all(id, siteId, siteId);
  if (ids.length === 1) return [];
  const rows = db
    .select()
    .from(change)
    .where(and(inArray(change.id, ids), eq(change.siteId, siteId), isNull(change.deletedAt)))
    .orderBy(asc(change.day), asc(change.id))
    .all();
  return withParts(db, rows);
}

/** Whether a change is a plan, after its day was set or somebody said so: the same for one that is logged and one that is edited. */
function settlePlan(db: Db, { id, day: on, steps }: Change, edit: Partial<NewChange>): void {
  if (edit.planned === undefined && edit.day === undefined) return;
  // Tomorrow may be today where it is logged from; what lies further ahead is a plan, whether it says so or not.
  if (edit.planned || on > addDays(today(), 1)) {
    if (steps.planned === undefined) storeStep(db, id, 'planned', today());
    storeStep(db, id, 'made', null);
  } else if (steps.made !== undefined || (edit.planned === false && steps.planned !== undefined)) {
    storeStep(db, id, 'made', on);
  }
}

/** Edits those fields of a change that are given, and keeps what it said before in its history. Must run in a transaction. Throws InputError. */
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
 * Marks a change as deleted, or takes that back. Nothing of it is lost either way. Resolves to whether it was this call that did it: of two at once
 * only one does.
 */
export async function setChangeDeleted(
  db: Db,
  id: number,
  deleted: boolean,
  guard = NO_GUARD,
): Promise<boolean> {
  return write(db, () => {
    guard();
    const { changes } = db
      .update(change)
      .set({ deletedAt: deleted ? timestamp() : null })
      // What is deleted already keeps its day.
      .where(and(eq(change.id, id), deleted ? isNull(change.deletedAt) : isNotNull(change.deletedAt)))
      .run();
    return changes > 0;
  });
}

/** So many entries of a history are shown at a time. */
export const HISTORY_SHOWN = 100;

/** What a change said before its edits, the last edit first: the last ones, or those before an entry. */
export function historyOf(db: Db, id: number, before = Number.MAX_SAFE_INTEGER): PastChange[] {
  return db
    .select()
    .from(changeHistory)
    .where(and(eq(changeHistory.changeId, id), lt(changeHistory.id, before)))
    .orderBy(desc(changeHistory.id))
    .limit(HISTORY_SHOWN)
    .all()
    .map(pastChange);
}

function pastChange({ id, at, actor, was }: typeof changeHistory.$inferSelect): PastChange {
  return { id, at, actor, was: JSON.parse(was) as Change };
}

/** Lets a change say again what it said before one of its edits; what it says now is kept too. */
export async function restoreChange(db: Db, site: Site, id: number, entry: number): Promise<Change> {
  const row = db
    .select()
    .from(changeHistory)
    .where(and(eq(changeHistory.id, entry), eq(changeHistory.changeId, id)))
    .get();
  if (!row) throw new InputError('entry', 'There is no such entry in the history of the change.', 422);
  const { was } = pastChange(row);
  await write(db, () => {
    keepHistory(db, id, NO_GUARD);
    checkFollowed(db, site.id, id, was.followsId);
    const { title, kind, oldText, newText, windowDays, settlingDays, person, link, note, followsId } = was;
    const { expectation, decision } = was;
    db.update(change)
      .set({
        ...{ title, kind, day: was.day, oldText, newText, windowDays, settlingDays },
        ...{ person, link, note, followsId },
        expectedMetric: expectation?.metric ?? null,
        expectedDirection: expectation?.direction ?? null,
        expectedAmount: expectation?.amount ?? null,
        reviewDay: expectation?.reviewDay ?? null,
        decision: decision?.decision ?? null,
        decisionReason: decision?.reason ?? null,
      })
      .where(eq(change.id, id))
      .run();
    // Before addresses were kept as they were written, there were only those of the pages.
    replacePages(db, site, id, was.written ?? was.pages.map((page) => page.address));
    storeQueries(db, id, was.queries);
    storeTags(db, id, was.tags);
    replaceParts(
      db,
      site,
      id,
      was.parts.map((part) => ({ ...part, page: part.written ?? part.page?.address ?? null })),
    );
    for (const step of STEPS) storeStep(db, id, step, was.steps[step] ?? null);
  });
  return findChange(db, id) as Change;
}
