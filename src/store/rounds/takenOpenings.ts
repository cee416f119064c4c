import { inArray } from 'drizzle-orm';
import type { TakenOpening } from '../../core/model/takenOpening';
import type { Db } from '../database';
import { takenOpening } from '../schema';

/** Notes the opening that a change was taken on for. Must run in a transaction. */
export function keepTakenOpening(db: Db, changeId: number, opening: TakenOpening): void {
  db.insert(takenOpening)
    .values({ changeId, opening: JSON.stringify(opening) })
    .onConflictDoUpdate({ target: takenOpening.changeId, set: { opening: JSON.stringify(opening) } })
    .run();
}

/** The openings that some changes were taken on for, by change. */
export function takenOpenings(db: Db, changeIds: readonly number[]): Map<number, TakenOpening> {
  return new Map(
    db
      .select()
      .from(takenOpening)
      .where(inArray(takenOpening.changeId, [...changeIds]))
      .all()
      .map(({ changeId, opening }) => [changeId, JSON.parse(opening) as TakenOpening]),
  );
}
