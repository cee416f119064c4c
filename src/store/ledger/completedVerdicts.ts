import type { Day } from '../../core/calendar/day';
import type { Mark } from '../../core/effect/verdict';
import { prepared, type Db } from '../database';
import { writeFigures } from '../write';

/**
 * The verdict of a reading when its days were over: its spans, its pages, and the day it was known.
 */
export type Said = {
  readonly changeId: number;
  readonly about: string;
  readonly day: Day;
  readonly verdict: Mark;
  readonly sentence: string;
};

/** What was said of the changes of a site, by their ids. */
export function saidOf(db: Db, siteId: number): Map<number, Said> {
  const rows = prepared<[number], Said>(
    db,
    `SELECT r.change_id AS changeId, r.about, r.day, r.verdict, r.sentence
     FROM reading_said r JOIN change c ON c.id = r.change_id WHERE c.site_id = ?`,
  ).all(siteId);
  return new Map(rows.map((row) => [row.changeId, row]));
}

/** Keeps what was said of changes, each once for the same spans and pages. */
export async function keepSaid(db: Db, said: readonly Said[]): Promise<void> {
  if (said.length === 0) return;
  const keep = prepared(
    db,
    `INSERT INTO reading_said (change_id, about, day, verdict, sentence) VALUES (?, ?, ?, ?, ?)
     ON CONFLICT (change_id) DO UPDATE
     SET about = excluded.about, day = excluded.day, verdict = excluded.verdict, sentence = excluded.sentence
     WHERE about <> excluded.about`,
  );
  await writeFigures(db, () => {
    for (const { changeId, about, day, verdict, sentence } of said)
      keep.run(changeId, about, day, verdict, sentence);
  });
}
