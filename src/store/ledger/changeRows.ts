/* The columns and rows that a change is stored in. */

import { and, eq, isNotNull, notInArray } from 'drizzle-orm';
import { isoDay, parseIsoDay, type Day } from '../../core/calendar/day';
import { normaliseQuery } from '../../core/intake/rowReader';
import type { Change, NewChange } from '../../core/model/change';
import { perPlainField, type PlainValues } from '../../core/model/changeFields';
import type { Step } from '../../core/model/steps';
import type { Site } from '../../core/model/site';
import { keyOfWritten, writtenIn } from './changePages';
import { today } from '../clock';
import { prepared, type Db } from '../database';
import { InputError } from '../inputError';
import { changePage, changePart, changeQuery, changeStep, changeTag, type change } from '../schema';
import { timestamp } from '../write';
import { findChange } from './findChanges';

/** A validated ISO day as the number that is stored. */
export function day(text: string): Day {
  return parseIsoDay(text) as Day;
}

/** The columns of a change for those fields that were given. */
export function columnsOf(input: Partial<NewChange>): Partial<typeof change.$inferInsert> {
  const { expectation } = input;
  return {
    ...(perPlainField((name) => input[name]) as Partial<PlainValues>),
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

export function storeQueries(db: Db, changeId: number, queries: readonly string[]): void {
  db.delete(changeQuery).where(eq(changeQuery.changeId, changeId)).run();
  for (const text of new Set(queries.map(normaliseQuery)))
    db.insert(changeQuery).values({ changeId, text }).run();
}

export function storeTags(db: Db, changeId: number, tags: readonly string[]): void {
  db.delete(changeTag).where(eq(changeTag.changeId, changeId)).run();
  for (const tag of tags) db.insert(changeTag).values({ changeId, tag }).run();
}

/** Throws InputError where a part names a page that the change does not. */
export function storeParts(db: Db, site: Site, changeId: number, parts: NewChange['parts']): void {
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
export function replaceParts(db: Db, site: Site, changeId: number, parts: NewChange['parts']): void {
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
export function dropStrayParts(db: Db, changeId: number): void {
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
 * Checks what a change follows: an existing change of the same site, neither itself nor one that
 * follows it. Throws InputError.
 */
export function checkFollowed(db: Db, siteId: number, id: number | null, followsId: number | null): void {
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

/** Sets the day of a step and the day on which it was recorded, or removes the step. */
export function storeStep(
  db: Db,
  changeId: number,
  step: Step,
  on: Day | null,
  recordedOn: Day = today(),
): void {
  db.delete(changeStep)
    .where(and(eq(changeStep.changeId, changeId), eq(changeStep.step, step)))
    .run();
  const at = isoDay(recordedOn) + timestamp().slice(10);
  if (on !== null) db.insert(changeStep).values({ changeId, step, day: on, at }).run();
}
