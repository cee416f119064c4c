/* What changes said before they were edited. */

import { and, desc, eq, lt } from 'drizzle-orm';
import type { Change } from '../../core/model/change';
import { plainValuesOf } from '../../core/model/changeFields';
import type { PastChange } from '../../core/model/changeHistory';
import { STEPS } from '../../core/model/steps';
import type { Site } from '../../core/model/site';
import { replacePages } from './changePages';
import { actingNow } from '../acting';
import type { Db } from '../database';
import { InputError } from '../inputError';
import { change, changeHistory } from '../schema';
import { timestamp, write, type Guard } from '../write';
import { checkFollowed, replaceParts, storeQueries, storeStep, storeTags } from './changeRows';
import { findChange } from './findChanges';

/**
 * Starts an edit: checks that the change still exists, and keeps its present state in the history.
 * Throws InputError.
 */
export function keepHistory(db: Db, id: number, guard: Guard): void {
  const was = findChange(db, id);
  if (!was)
    throw new InputError('root', 'The change was deleted meanwhile; put it back before it is edited.', 409);
  guard();
  db.insert(changeHistory)
    .values({ changeId: id, at: timestamp(), ...actingNow(), was: JSON.stringify(was) })
    .run();
}

/** So many entries of a history are shown at a time. */
export const HISTORY_SHOWN = 100;

/** Earlier states of a change, last edit first: the last ones, or those before an entry. */
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

function pastChange({ id, at, actor, actorId, was }: typeof changeHistory.$inferSelect): PastChange {
  return { id, at, actor, actorId, was: JSON.parse(was) as Change };
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
    keepHistory(db, id, () => {});
    checkFollowed(db, site.id, id, was.followsId);
    const { expectation, decision } = was;
    db.update(change)
      .set({
        ...plainValuesOf(was),
        day: was.day,
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
    for (const step of STEPS) storeStep(db, id, step, was.steps[step] ?? null, was.recorded?.[step]);
  });
  return findChange(db, id) as Change;
}
