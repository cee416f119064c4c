import { and, desc, eq, gt, isNull, type SQL } from 'drizzle-orm';
import type { Role } from '../../core/access/rights';
import { actingNow, setAuditTarget } from '../acting';
import { prepared, type Db } from '../database';
import { pass } from '../schema';
import { timestamp, write } from '../write';
import { findPerson, rolesOf } from './people';
import { digestOf, newKey } from './secret';

/** Invitations are good for so long, recoveries for less. */
export const INVITATION_DAYS = 7;
export const RECOVERY_HOURS = 24;

export type Pass = typeof pass.$inferSelect;

type Made = { readonly id: number; readonly key: string; readonly expiresAt: string };

const inHours = (hours: number) => new Date(Date.now() + hours * 3_600_000).toISOString();

async function makePass(
  db: Db,
  values: Pick<Pass, 'kind' | 'email' | 'siteId' | 'role'>,
  expiresAt: string,
): Promise<Made> {
  const { key, digest } = newKey();
  return write(db, () => {
    const email = values.email.trim().toLowerCase();
    const credential = values.kind === 'recovery' ? credentialOf(db, email) : null;
    const row = { ...values, email, digest, credential, expiresAt };
    // A new link replaces the earlier ones.
    const { kind, siteId } = values;
    withdrawWhere(db, and(eq(pass.kind, kind), eq(pass.email, email), at(siteId)));
    const { actor: madeBy, actorId: makerId } = actingNow();
    const { id } = db
      .insert(pass)
      .values({ ...row, madeBy, makerId, createdAt: timestamp() })
      .returning({ id: pass.id })
      .get();
    setAuditTarget('pass', id, row.email);
    return { id, key, expiresAt };
  });
}

/**
 * Makes an invitation link: to a site with a role, or (`siteId` null) as an owner of the
 * installation.
 */
export function invite(
  db: Db,
  {
    email,
    siteId,
    role,
  }: { readonly email: string; readonly siteId: number | null; readonly role: Role | null },
): Promise<Made> {
  return makePass(db, { kind: 'invitation', email, siteId, role }, inHours(INVITATION_DAYS * 24));
}

/** Makes a link by which somebody who has an account chooses a new password. */
export function makeRecovery(db: Db, email: string): Promise<Made> {
  return makePass(db, { kind: 'recovery', email, siteId: null, role: null }, inHours(RECOVERY_HOURS));
}

/** Identifies the current password of an account without revealing it, or null. */
function credentialOf(db: Db, email: string): string | null {
  const found = prepared<[string], string | null>(
    db,
    `SELECT a.password FROM account a JOIN user u ON u.id = a.user_id
     WHERE u.email = ? AND a.provider_id = 'credential'`,
  )
    .pluck()
    .get(email);
  return found ? digestOf(found) : null;
}

/** Whether the maker of a link still has the right to make it. */
function standsBehind(db: Db, { makerId, madeBy, siteId }: Pass): boolean {
  // Made from the command line, or before makers were recorded: then by somebody with a name.
  if (makerId === null) return madeBy === null;
  const maker = findPerson(db, makerId);
  if (!maker) return false;
  return maker.administrator || (siteId !== null && rolesOf(db, makerId).get(siteId) === 'owner');
}

function stillOpens(db: Db, one: Pass): boolean {
  return standsBehind(db, one) && (one.kind !== 'recovery' || one.credential === credentialOf(db, one.email));
}

const at = (siteId: number | null) => (siteId === null ? isNull(pass.siteId) : eq(pass.siteId, siteId));

function withdrawWhere(db: Db, which: SQL | undefined): number {
  const now = timestamp();
  return db
    .update(pass)
    .set({ withdrawnAt: now })
    .where(and(which, open(now)))
    .run().changes;
}

const open = (now: string) => and(isNull(pass.usedAt), isNull(pass.withdrawnAt), gt(pass.expiresAt, now));

/**
 * The pass of a link; null if it is unknown, used, withdrawn or expired, if its maker lost the
 * right to make it, or if the password it replaces has changed.
 */
export function openPass(db: Db, key: string): Pass | null {
  const found = db
    .select()
    .from(pass)
    .where(and(eq(pass.digest, digestOf(key)), open(timestamp())))
    .get();
  return found && stillOpens(db, found) ? found : null;
}

/** Marks a pass as used, in the transaction in which it is. Whether it still could be. */
export function spendPass(db: Db, id: number): boolean {
  const now = timestamp();
  return (
    db
      .update(pass)
      .set({ usedAt: now })
      .where(and(eq(pass.id, id), open(now)))
      .run().changes > 0
  );
}

/** Links of a kind, to a site (null: to the installation), that still open, the last made first. */
export function openPasses(db: Db, kind: Pass['kind'], siteId: number | null): Pass[] {
  return db
    .select()
    .from(pass)
    .where(and(at(siteId), eq(pass.kind, kind), open(timestamp())))
    .orderBy(desc(pass.id))
    .all()
    .filter((one) => stillOpens(db, one));
}

/** Withdraws a link to a site (null: to the installation). Whether this call did. */
export async function withdrawPass(db: Db, siteId: number | null, id: number): Promise<boolean> {
  return (await write(db, () => withdrawWhere(db, and(at(siteId), eq(pass.id, id))))) > 0;
}
