import { and, eq } from 'drizzle-orm';
import { prepared, type Db } from '../database';
import { passedOpening } from '../schema';
import { timestamp, write } from '../write';

/** An opening that somebody found not worth it, why, and what it was estimated to bring then. */
export type PassedOpening = { readonly reason: string; readonly clicksAMonth: number };

/** The openings of a site that were found not worth it, by their keys. */
export function passedOpenings(db: Db, siteId: number): Map<string, PassedOpening> {
  const rows = prepared<[number], PassedOpening & { key: string }>(
    db,
    'SELECT key, reason, clicks_a_month AS clicksAMonth FROM passed_opening WHERE site_id = ?',
  ).all(siteId);
  return new Map(rows.map(({ key, ...rest }) => [key, rest]));
}

/** Says of an opening that it is not worth it, and why. */
export async function dismissOpening(
  db: Db,
  siteId: number,
  key: string,
  passed: PassedOpening,
): Promise<void> {
  const values = { siteId, key, ...passed, at: timestamp() };
  await write(db, () => {
    db.insert(passedOpening)
      .values(values)
      .onConflictDoUpdate({ target: [passedOpening.siteId, passedOpening.key], set: values })
      .run();
  });
}

/** Offers an opening again that was found not worth it. */
export async function takeUpOpening(db: Db, siteId: number, key: string): Promise<void> {
  await write(db, () => {
    db.delete(passedOpening)
      .where(and(eq(passedOpening.siteId, siteId), eq(passedOpening.key, key)))
      .run();
  });
}
