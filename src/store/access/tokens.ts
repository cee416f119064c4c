import { and, desc, eq, isNull } from 'drizzle-orm';
import { z } from 'zod';
import { TOKEN_RIGHTS, type TokenRight } from '../../core/access/rights';
import { isoDaySchema, lineText } from '../../core/model/fields';
import { parseIsoDay } from '../../core/calendar/day';
import { actorNow, setAuditTarget } from '../acting';
import { prepared, type Db } from '../database';
import { today } from '../clock';
import { InputError } from '../inputError';
import { accessToken } from '../schema';
import { timestamp, write } from '../write';
import { digestOf, newKey } from './secret';

/** So that whoever finds one knows what it is, and searches for leaked secrets can tell it. */
const PREFIX = 'tally_';

export const newTokenSchema = z.strictObject({
  name: lineText().min(1, 'What is it for?').max(80, 'At most 80 characters.'),
  right: z.enum(TOKEN_RIGHTS, 'What may it do?'),
  /** The last day on which it opens anything. */
  lastDay: isoDaySchema.nullable().default(null),
});
export type NewToken = z.output<typeof newTokenSchema>;

/** A token as people see it again: never what opens. */
export type KnownToken = Omit<typeof accessToken.$inferSelect, 'digest'>;

/** Makes a token of a site. What opens is given here once, and stored nowhere. */
export async function makeToken(
  db: Db,
  siteId: number,
  given: NewToken,
): Promise<{ id: number; key: string }> {
  const { key, digest } = newKey(PREFIX);
  const { name, right, lastDay } = given;
  if (lastDay !== null && parseIsoDay(lastDay)! < today())
    throw new InputError('lastDay', 'That day has passed, so the token would never work.');
  return write(db, () => {
    const values = { siteId, name, right, lastDay: lastDay === null ? null : parseIsoDay(lastDay), digest };
    const { id } = db
      .insert(accessToken)
      .values({
        ...values,
        begins: key.slice(0, PREFIX.length + 4),
        madeBy: actorNow(),
        createdAt: timestamp(),
      })
      .returning({ id: accessToken.id })
      .get();
    setAuditTarget('token', id, name);
    return { id, key };
  });
}

/** Tokens of a site, those that open first, the last made first. */
export function listTokens(db: Db, siteId: number): KnownToken[] {
  return db
    .select({
      ...{ id: accessToken.id, siteId: accessToken.siteId, name: accessToken.name, right: accessToken.right },
      ...{ begins: accessToken.begins, madeBy: accessToken.madeBy, createdAt: accessToken.createdAt },
      ...{ lastDay: accessToken.lastDay, lastUsedAt: accessToken.lastUsedAt, endedAt: accessToken.endedAt },
    })
    .from(accessToken)
    .where(eq(accessToken.siteId, siteId))
    .orderBy(accessToken.endedAt, desc(accessToken.id))
    .all();
}

/** Ends a token. Whether this call did. */
export async function endToken(db: Db, siteId: number, id: number): Promise<boolean> {
  const { changes } = await write(db, () =>
    db
      .update(accessToken)
      .set({ endedAt: timestamp() })
      .where(and(eq(accessToken.siteId, siteId), eq(accessToken.id, id), isNull(accessToken.endedAt)))
      .run(),
  );
  return changes > 0;
}

export type OpenToken = {
  readonly id: number;
  readonly name: string;
  readonly siteId: number;
  readonly right: TokenRight;
  readonly lastUsedAt: string | null;
};

/** The token that a key is; null where it is none, or opens nothing any more. */
export function findToken(db: Db, key: string): OpenToken | null {
  const row = prepared<[string], OpenToken & { lastDay: number | null }>(
    db,
    `SELECT id, name, site_id AS siteId, "right", last_used_at AS lastUsedAt, last_day AS lastDay
     FROM access_token WHERE digest = ? AND ended_at IS NULL`,
  ).get(digestOf(key));
  return row && (row.lastDay === null || row.lastDay >= today()) ? row : null;
}

/** Precision of the last use: a script that asks every second doesn’t write every second. */
const USE_KNOWN_MS = 60_000;

/**
 * Records that a token was used now. Not worth waiting for a writer: the next use is recorded as
 * well.
 */
export function rememberUse(db: Db, { id, lastUsedAt }: OpenToken, now = Date.now()): void {
  if (lastUsedAt !== null && now - Date.parse(lastUsedAt) < USE_KNOWN_MS) return;
  try {
    prepared<[string, number], never>(db, 'UPDATE access_token SET last_used_at = ? WHERE id = ?').run(
      new Date(now).toISOString(),
      id,
    );
  } catch {
    // Another writes; or the disk is full, which those who ask hear from what they ask for.
  }
}
