import { and, asc, desc, eq, gt, ne } from 'drizzle-orm';
import type { Role } from '../../core/access/rights';
import { prepared, type Db } from '../database';
import { InputError } from '../inputError';
import { account, member, session, site, twoFactor, user, verification } from '../schema';
import { timestamp, write } from '../write';
import { setAuditTarget } from '../acting';

/** Whether there is an account. Until then whoever is at the machine may do everything. */
export function anyAccount(db: Db): boolean {
  return prepared<[], number>(db, 'SELECT EXISTS (SELECT 1 FROM user)').pluck().get() === 1;
}

export type Person = {
  readonly id: string;
  readonly name: string;
  readonly email: string;
  readonly administrator: boolean;
  readonly secondFactor: boolean;
};

const columns = {
  ...{ id: user.id, name: user.name, email: user.email, administrator: user.administrator },
  secondFactor: user.twoFactorEnabled,
};
const asPerson = ({
  secondFactor,
  ...row
}: { secondFactor: boolean | null } & Omit<Person, 'secondFactor'>) => ({
  ...row,
  secondFactor: secondFactor === true,
});

export function findPerson(db: Db, id: string): Person | null {
  const row = db.select(columns).from(user).where(eq(user.id, id)).get();
  return row ? asPerson(row) : null;
}

/** Addresses are compared without regard to case. */
export function personByEmail(db: Db, email: string): Person | null {
  const row = db.select(columns).from(user).where(eq(user.email, email.trim().toLowerCase())).get();
  return row ? asPerson(row) : null;
}

/** Everybody with an account, by name. */
export function listPeople(db: Db): Person[] {
  return db.select(columns).from(user).orderBy(asc(user.name)).all().map(asPerson);
}

/** Names in use by other accounts and tokens, and names under which others appear in the audit log. */
export function namesOfOthers(db: Db, id: string | null): string[] {
  return prepared<[object], string>(
    db,
    `SELECT name FROM user WHERE $id IS NULL OR id <> $id
     UNION SELECT name FROM access_token
     UNION SELECT actor FROM deed WHERE actor_kind = 'person' AND ($id IS NULL OR actor_id <> $id)`,
  )
    .pluck()
    .all({ id });
}

/** What somebody may do where. */
export function rolesOf(db: Db, userId: string): Map<number, Role> {
  const rows = db
    .select({ siteId: member.siteId, role: member.role })
    .from(member)
    .where(eq(member.userId, userId))
    .all();
  return new Map(rows.map(({ siteId, role }) => [siteId, role]));
}

export type Member = Person & { readonly role: Role; readonly since: string };

/** The team of a site, by name, without owners of the installation who have no role on it. */
export function membersOf(db: Db, siteId: number): Member[] {
  return db
    .select({ ...columns, role: member.role, since: member.since })
    .from(member)
    .innerJoin(user, eq(user.id, member.userId))
    .where(eq(member.siteId, siteId))
    .orderBy(asc(user.name))
    .all()
    .map(({ role, since, ...row }) => ({ ...asPerson(row), role, since }));
}

/**
 * Gives somebody a role on a site, or removes it (null). Owners of the installation own every site
 * anyway.
 */
export async function setRole(db: Db, siteId: number, userId: string, role: Role | null): Promise<void> {
  await write(db, () => setRoleNow(db, siteId, userId, role));
}

/** The same within a transaction. */
export function setRoleNow(db: Db, siteId: number, userId: string, role: Role | null): void {
  const person = findPerson(db, userId);
  if (!person) throw new InputError('person', 'There is no such account any more.', 409);
  if (role === null) {
    db.delete(member)
      .where(and(eq(member.siteId, siteId), eq(member.userId, userId)))
      .run();
    return;
  }
  db.insert(member)
    .values({ siteId, userId, role, since: timestamp() })
    .onConflictDoUpdate({ target: [member.siteId, member.userId], set: { role } })
    .run();
}

/** Makes somebody an owner of the whole installation, or not any longer. One always stays. */
export async function setAdministrator(db: Db, userId: string, administrator: boolean): Promise<void> {
  await write(db, () => {
    if (!administrator) keepOneAdministrator(db, userId);
    db.update(user).set({ administrator, updatedAt: new Date() }).where(eq(user.id, userId)).run();
  });
}

function keepOneAdministrator(db: Db, without: string): void {
  const other = db
    .select({ id: user.id })
    .from(user)
    .where(and(eq(user.administrator, true), ne(user.id, without)))
    .get();
  if (!other)
    throw new InputError(
      'person',
      'Somebody has to own the whole installation; make another an owner first.',
      409,
    );
}

/** Removes an account with its sessions and roles. Its activity stays under its name. */
export async function removePerson(db: Db, userId: string): Promise<void> {
  await write(db, () => {
    keepOneAdministrator(db, userId);
    db.delete(user).where(eq(user.id, userId)).run();
  });
}

export type OpenSession = {
  readonly id: string;
  readonly since: Date;
  readonly lastSeen: Date;
  readonly ends: Date;
  readonly from: string | null;
  readonly browser: string | null;
};

/** The sessions in which somebody is signed in, the last one first. */
export function sessionsOf(db: Db, userId: string, now = new Date()): OpenSession[] {
  return db
    .select({
      ...{ id: session.id, since: session.createdAt, lastSeen: session.updatedAt, ends: session.expiresAt },
      ...{ from: session.ipAddress, browser: session.userAgent },
    })
    .from(session)
    .where(and(eq(session.userId, userId), gt(session.expiresAt, now)))
    .orderBy(desc(session.updatedAt))
    .all();
}

/** Ends a session of somebody, or all but one (`except`). */
export async function endSessions(
  db: Db,
  userId: string,
  which: { readonly id: string } | { readonly except: string | null },
): Promise<void> {
  const rest =
    'id' in which
      ? eq(session.id, which.id)
      : which.except === null
        ? undefined
        : ne(session.id, which.except);
  await write(db, () =>
    db
      .delete(session)
      .where(and(eq(session.userId, userId), rest))
      .run(),
  );
}

/** Takes the second factor off an account that lost it. */
export async function dropSecondFactor(db: Db, userId: string): Promise<void> {
  await write(db, () => {
    db.delete(twoFactor).where(eq(twoFactor.userId, userId)).run();
    db.update(user).set({ twoFactorEnabled: false }).where(eq(user.id, userId)).run();
  });
}

/** The sites that somebody is a member of, for the list of accounts. */
export function siteNamesOf(db: Db, userId: string): { name: string; role: Role }[] {
  return db
    .select({ name: site.name, role: member.role })
    .from(member)
    .innerJoin(site, eq(site.id, member.siteId))
    .where(eq(member.userId, userId))
    .orderBy(asc(site.name))
    .all();
}

/** Says in the list of deeds whom something was done to. */
export function tellPerson(person: Pick<Person, 'name'>): void {
  setAuditTarget('person', 0, person.name);
}

/** Stores the digest of a new password and ends every session of the account. */
export function setPasswordNow(db: Db, userId: string, digest: string): void {
  db.update(account)
    .set({ password: digest, updatedAt: new Date() })
    .where(and(eq(account.userId, userId), eq(account.providerId, 'credential')))
    .run();
  db.delete(session).where(eq(session.userId, userId)).run();
}

/** Makes an account an administrator of the installation. */
export function makeAdministratorNow(db: Db, userId: string): void {
  db.update(user).set({ administrator: true }).where(eq(user.id, userId)).run();
}

/** Changes what an account is called. */
export function setNameNow(db: Db, userId: string, name: string): void {
  db.update(user).set({ name, updatedAt: new Date() }).where(eq(user.id, userId)).run();
}

/** The account of a sign-in in progress, by the identifier in its cookie; null if there is none. */
export function personSigningIn(db: Db, identifier: string): Person | null {
  const row = db.select().from(verification).where(eq(verification.identifier, identifier)).get();
  return row ? findPerson(db, row.value) : null;
}
