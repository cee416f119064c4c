import { markDeleted } from '../markDeleted';
import { and, asc, eq, inArray, isNull } from 'drizzle-orm';
import { namesOf } from '../addresses/namedPage';
import type { Worded } from '../../core/wording/resultPage';
import type { Db } from '../database';
import { InputError } from '../inputError';
import { draft } from '../schema';
import { timestamp, write } from '../write';

/** A draft of a title or description of a page. */
export type Draft = {
  readonly id: number;
  readonly pageId: number;
  readonly of: Worded;
  readonly text: string;
};

const columns = { id: draft.id, pageId: draft.pageId, of: draft.of, text: draft.text };
const MOST_DRAFTS = 20;

/** The drafts of some pages, in the order in which they were begun. */
export function draftsOf(db: Db, pageIds: readonly number[], of: Worded): Draft[] {
  return db
    .select(columns)
    .from(draft)
    .where(and(inArray(draft.pageId, namesOf(db, [...pageIds])), eq(draft.of, of), isNull(draft.deletedAt)))
    .orderBy(asc(draft.id))
    .all();
}

/** Begins a draft, and gives its number. */
export async function addDraft(
  db: Db,
  siteId: number,
  given: Pick<Draft, 'pageId' | 'of' | 'text'>,
): Promise<number> {
  return write(db, () => {
    if (draftsOf(db, [given.pageId], given.of).length >= MOST_DRAFTS)
      throw new InputError('text', `A page has at most ${MOST_DRAFTS} drafts; drop one first.`);
    const at = timestamp();
    return db
      .insert(draft)
      .values({ siteId, ...given, at, changedAt: at })
      .returning({ id: draft.id })
      .get().id;
  });
}

/**
 * Writes a draft anew; `guard` is given the text that it has now, and throws where that is not to
 * be written over.
 */
export async function saveDraft(
  db: Db,
  siteId: number,
  id: number,
  text: string,
  guard: (now: string) => void = () => undefined,
): Promise<void> {
  const own = and(eq(draft.siteId, siteId), eq(draft.id, id));
  await write(db, () => {
    const now = db.select({ text: draft.text }).from(draft).where(own).get();
    if (!now) throw new InputError('root', 'This draft was deleted.', 409);
    guard(now.text);
    db.update(draft).set({ text, changedAt: timestamp() }).where(own).run();
  });
}

/** Drops a draft, or takes it back. */
export async function setDraftDeleted(
  db: Db,
  siteId: number,
  id: number,
  deleted: boolean,
): Promise<boolean> {
  return write(db, () => markDeleted(db, draft, id, deleted, siteId));
}
