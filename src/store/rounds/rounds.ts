import { markDeleted } from '../markDeleted';
import { and, asc, desc, eq, inArray, isNull, sql } from 'drizzle-orm';
import { asDay, parseIsoDay, type Day } from '../../core/calendar/day';
import type { Expectation } from '../../core/model/change';
import type { TakenOpening } from '../../core/model/takenOpening';
import type { Frozen, Half, NewRoundDecision, PageStep, Round, RoundPage } from '../../core/model/round';
import { actingNow, setAuditTarget } from '../acting';
import type { Db } from '../database';
import { InputError } from '../inputError';
import { page, round, roundHistory, roundPage } from '../schema';
import { timestamp, write, type Guard } from '../write';

const STEP_COLUMNS = {
  made: 'madeOn',
  'reindex-requested': 'requestedOn',
  crawled: 'crawledOn',
  'seen-in-results': 'seenOn',
} as const satisfies Record<PageStep, string>;
const NO_GUARD: Guard = () => {};

/** The rounds of a site that were not deleted, the last begun first. */
export function listRounds(db: Db, siteId: number): Round[] {
  const rows = db
    .select()
    .from(round)
    .where(and(eq(round.siteId, siteId), isNull(round.deletedAt)))
    .orderBy(desc(round.day), desc(round.id))
    .all();
  return withPages(db, rows);
}

/** One round; null where there is none, or it was deleted. */
export function findRound(db: Db, id: number): Round | null {
  const row = db
    .select()
    .from(round)
    .where(and(eq(round.id, id), isNull(round.deletedAt)))
    .get();
  return row ? withPages(db, [row])[0]! : null;
}

/** The rounds that logged some changes, by the number of the change. */
export function roundsOfChanges(db: Db, siteId: number): Map<number, Round> {
  return new Map(
    listRounds(db, siteId).flatMap((one) => Object.values(one.changes).map((id) => [id, one] as const)),
  );
}

function withPages(db: Db, rows: readonly (typeof round.$inferSelect)[]): Round[] {
  const pages = db
    .select({
      row: roundPage,
      id: sql<number>`coalesce(${page.intoId}, ${page.id})`,
      address: sql<string>`coalesce((SELECT address FROM page AS i WHERE i.id = ${page.intoId}), ${page.address})`,
    })
    .from(roundPage)
    .innerJoin(page, eq(page.id, roundPage.pageId))
    .where(
      inArray(
        roundPage.roundId,
        rows.map(({ id }) => id),
      ),
    )
    .orderBy(asc(roundPage.roundId), asc(roundPage.place))
    .all();
  const byRound = new Map<number, RoundPage[]>();
  for (const { row, id, address } of pages) {
    const list = byRound.get(row.roundId) ?? [];
    byRound.set(row.roundId, list);
    // Two that have become one page since are one.
    if (!list.some((one) => one.page.id === id)) list.push(asPage(row, id, address));
  }
  return rows.map((row) => asRound(row, byRound.get(row.id) ?? []));
}

function asPage(row: typeof roundPage.$inferSelect, id: number, address: string): RoundPage {
  const steps = Object.fromEntries(
    Object.entries(STEP_COLUMNS).flatMap(([step, column]) => {
      const day = row[column];
      return day === null ? [] : [[step, asDay(day)]];
    }),
  ) as RoundPage['steps'];
  return {
    ...{ page: { id, address }, written: row.address, half: row.half, block: row.block, steps },
    ...{ person: row.person, oldText: row.oldText, newText: row.newText },
    frozen: JSON.parse(row.frozen) as Frozen,
    opening: row.opening === null ? null : (JSON.parse(row.opening) as TakenOpening),
  };
}

function asRound(row: typeof round.$inferSelect, pages: readonly RoundPage[]): Round {
  const { id, siteId, name, kind, draw, seed, windowDays, settlingDays, person, followsId } = row;
  return {
    ...{ id, siteId, name, kind, draw, seed, windowDays, settlingDays, person, followsId, pages },
    day: asDay(row.day),
    expectation: row.expectation === null ? null : (JSON.parse(row.expectation) as Expectation),
    decision:
      row.decision === null
        ? null
        : { decision: row.decision, reason: row.decisionReason, day: asDay(row.decidedOn ?? row.day) },
    changes: {
      ...(row.firstChangeId === null ? {} : { first: row.firstChangeId }),
      ...(row.secondChangeId === null ? {} : { second: row.secondChangeId }),
    },
  };
}

/** A round about to be stored. */
export type RoundToStore = Omit<Round, 'id' | 'decision' | 'changes'>;

/** Stores a round and gives its number. */
export async function addRound(db: Db, made: RoundToStore): Promise<number> {
  return write(db, () => {
    const { pages, expectation, ...columns } = made;
    const { id } = db
      .insert(round)
      .values({
        ...columns,
        expectation: expectation && JSON.stringify(expectation),
        createdAt: timestamp(),
      })
      .returning({ id: round.id })
      .get();
    pages.forEach((one, place) => {
      db.insert(roundPage)
        .values({
          ...{ roundId: id, pageId: one.page.id, address: one.written, place },
          ...{ half: one.half, block: one.block, person: one.person },
          ...{ oldText: one.oldText, newText: one.newText },
          frozen: JSON.stringify(one.frozen),
          opening: one.opening && JSON.stringify(one.opening),
        })
        .run();
    });
    return setAuditTarget('round', id, made.name);
  });
}

/** Edits a round in one transaction: what it said before is kept, then `work` is done with it. Throws InputError. */
export async function editRound<T>(
  db: Db,
  id: number,
  work: (was: Round) => T,
  guard: Guard = NO_GUARD,
): Promise<T> {
  return write(db, () => {
    guard();
    const was = findRound(db, id);
    if (!was) throw new InputError('root', 'The round was deleted meanwhile; put it back first.', 409);
    db.insert(roundHistory)
      .values({ roundId: id, at: timestamp(), ...actingNow(), was: JSON.stringify(was) })
      .run();
    return work(was);
  });
}

/** The numbers under which the pages of a round stand in its rows: their own, or those of pages that became part of them. */
const rowsOf = (db: Db, roundId: number, pageIds: readonly number[]) =>
  and(
    eq(roundPage.roundId, roundId),
    inArray(
      roundPage.pageId,
      db
        .select({ id: page.id })
        .from(page)
        .where(inArray(sql`coalesce(${page.intoId}, ${page.id})`, [...pageIds])),
    ),
  );

/** Sets the day of a step of some pages, or takes it back. Must run in an edit. */
export function setPageStep(
  db: Db,
  roundId: number,
  pageIds: readonly number[],
  step: PageStep,
  day: Day | null,
): void {
  db.update(roundPage)
    .set({ [STEP_COLUMNS[step]]: day })
    .where(rowsOf(db, roundId, pageIds))
    .run();
}

/** Sets the new text and the person of a page. Must run in an edit. */
export function setPageText(
  db: Db,
  roundId: number,
  pageId: number,
  { newText, person }: Pick<RoundPage, 'newText' | 'person'>,
): void {
  db.update(roundPage)
    .set({ newText, person })
    .where(rowsOf(db, roundId, [pageId]))
    .run();
}

/** Notes the change that a half was logged as. Must run in an edit. */
export function setHalfChange(db: Db, roundId: number, half: Half, changeId: number): void {
  db.update(round)
    .set(half === 'first' ? { firstChangeId: changeId } : { secondChangeId: changeId })
    .where(eq(round.id, roundId))
    .run();
}

/** Sets what was decided, or takes it back. Must run in an edit. */
export function setRoundDecision(db: Db, roundId: number, { decision, reason, day }: NewRoundDecision): void {
  db.update(round)
    .set(
      decision === null
        ? { decision: null, decisionReason: null, decidedOn: null }
        : { decision, decisionReason: reason, decidedOn: parseIsoDay(day) },
    )
    .where(eq(round.id, roundId))
    .run();
}

/** Deletes a round, or puts it back, of one site only where that is said. The changes that its halves were logged as stay. */
export async function setRoundDeleted(
  db: Db,
  id: number,
  deleted: boolean,
  guard: Guard = NO_GUARD,
  ofSite: number | null = null,
): Promise<boolean> {
  return write(db, () => {
    guard();
    return markDeleted(db, round, id, deleted, ofSite);
  });
}
