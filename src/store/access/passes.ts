import { and, desc, eq, gt, isNull } from 'drizzle-orm';
import type { Role } from '../../core/access/rights';
import { actorNow, tellThing } from '../acting';
import type { Db } from '../database';
import { pass } from '../schema';
import { timestamp, write } from '../write';
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
    const row = { ...values, email: values.email.trim().toLowerCase(), digest, expiresAt };
    const { id } = db
      .insert(pass)
      .values({ ...row, madeBy: actorNow(), createdAt: timestamp() })
      .returning({ id: pass.id })
      .get();
    tellThing('pass', id, row.email);
    return { id, key, expiresAt };
  });
}

/** Makes a link by which somebody comes in: on a site with a role, or (`siteId` null) as an owner of the whole installation. */
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

const open = (now: string) => and(isNull(pass.usedAt), isNull(pass.withdrawnAt), gt(pass.expiresAt, now));

/** The pass that a link stands for; null where it is none, used, withdrawn, or too old. */
export function openPass(db: Db, key: string): Pass | null {
  return (
    db
      .select()
      .from(pass)
      .where(and(eq(pass.digest, digestOf(key)), open(timestamp())))
      .get() ?? null
  );
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

/** Invitations to a site (null: to the installation) that still open, the last made first. */
export function openInvitations(db: Db, siteId: number | null): Pass[] {
  const here = siteId === null ? isNull(pass.siteId) : eq(pass.siteId, siteId);
  return db
    .select()
    .from(pass)
    .where(and(here, eq(pass.kind, 'invitation'), open(timestamp())))
    .orderBy(desc(pass.id))
    .all();
}

/** Withdraws an invitation to a site (null: to the installation). Whether this call did. */
export async function withdrawInvitation(db: Db, siteId: number | null, id: number): Promise<boolean> {
  const here = siteId === null ? isNull(pass.siteId) : eq(pass.siteId, siteId);
  const { changes } = await write(db, () =>
    db
      .update(pass)
      .set({ withdrawnAt: timestamp() })
      .where(and(here, eq(pass.id, id), open(timestamp())))
      .run(),
  );
  return changes > 0;
}
