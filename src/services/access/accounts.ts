import { randomUUID } from 'node:crypto';
import { z } from 'zod';
import { nameKey, readsLikeToken } from '../../core/access/names';
import { ROLES } from '../../core/access/rights';
import { lineText } from '../../core/model/fields';
import {
  anyAccount,
  findPerson,
  makeAdministratorNow,
  namesOfOthers,
  personByEmail,
  rolesOf,
  setNameNow,
  setPasswordNow,
  setRoleNow,
  tellPerson,
  type Person,
} from '../../store/access/people';
import { openPass, spendPass, type Pass } from '../../store/access/passes';
import { account, user } from '../../store/access/schema';
import type { Db } from '../../store/database';
import { InputError } from '../../store/inputError';
import { write } from '../../store/write';
import { hashPassword, refuseWeak } from './passwords';

export const emailSchema = z
  .string('An address of e-mail.')
  .trim()
  .toLowerCase()
  .max(200, 'At most 200 characters.')
  .pipe(z.email('This is no address of e-mail.'));
export const personNameSchema = lineText()
  .min(1, 'What are you called here?')
  .max(60, 'At most 60 characters.');
/** The length is looked at with the rest of it, once it is known whose it is. */
export const passwordSchema = z.string('A password.').max(1000, 'At most 128 characters.');

export const newPersonSchema = z.strictObject({
  email: emailSchema,
  name: personNameSchema,
  password: passwordSchema,
});
export type NewPerson = z.output<typeof newPersonSchema>;

/** Throws InputError if a name is taken or reserved: histories show who did what by name. */
function refuseTakenName(db: Db, name: string, id: string | null): void {
  const taken = namesOfOthers(db, id).some((other) => nameKey(other) === nameKey(name));
  if (taken || readsLikeToken(name))
    throw new InputError(
      'name',
      taken
        ? `The name “${name}” is already taken. Add a surname or initials.`
        : 'Names that begin with “token” are reserved.',
      409,
    );
}

type Insert = NewPerson & { readonly digest: string; readonly administrator: boolean };

function insertPerson(db: Db, { email, name, digest, administrator }: Insert): string {
  if (personByEmail(db, email))
    throw new InputError('email', `There is an account of ${email} already.`, 409);
  refuseTakenName(db, name, null);
  const id = randomUUID();
  const now = { createdAt: new Date(), updatedAt: new Date() };
  db.insert(user)
    .values({ id, name, email, administrator, ...now })
    .run();
  const credential = { id: randomUUID(), userId: id, accountId: id, providerId: 'credential' };
  db.insert(account)
    .values({ ...credential, password: digest, ...now })
    .run();
  tellPerson({ name });
  return id;
}

/**
 * Makes the first account, which owns the installation. Throws InputError if there is one already.
 */
export async function makeFirstAccount(db: Db, given: NewPerson): Promise<void> {
  await refuseWeak(given.password, [given.email, given.name]);
  const digest = await hashPassword(given.password);
  await write(db, () => {
    if (anyAccount(db))
      throw new InputError('email', 'There is an account already. Its owner can invite others.', 409);
    insertPerson(db, { ...given, digest, administrator: true });
  });
}

/**
 * Makes an account that owns the installation, whoever else has one. For whoever is at the machine.
 */
export async function makeOwner(db: Db, given: NewPerson): Promise<void> {
  await refuseWeak(given.password, [given.email, given.name]);
  const digest = await hashPassword(given.password);
  await write(db, () => insertPerson(db, { ...given, digest, administrator: true }));
}

const GONE = 'This link does not open anything any more. Ask for a new one.';

/** The pass of a link, of the kind that is wanted. Throws InputError. */
function passOf(db: Db, key: string, kind: Pass['kind']): Pass {
  const pass = openPass(db, key);
  if (pass?.kind !== kind) throw new InputError('root', GONE, 409);
  return pass;
}

function grant(db: Db, pass: Pass, userId: string): void {
  if (!spendPass(db, pass.id)) throw new InputError('root', GONE, 409);
  if (pass.siteId === null) makeAdministratorNow(db, userId);
  else {
    const [has, gives] = [rolesOf(db, userId).get(pass.siteId), pass.role ?? 'reader'];
    // An invitation that somebody had forgotten takes nothing away.
    if (has === undefined || ROLES.indexOf(has) < ROLES.indexOf(gives))
      setRoleNow(db, pass.siteId, userId, gives);
  }
}

/** Makes the account that an invitation is for. */
export async function acceptInvitation(
  db: Db,
  key: string,
  given: { readonly name: string; readonly password: string },
): Promise<{ email: string }> {
  const { email } = passOf(db, key, 'invitation');
  await refuseWeak(given.password, [email, given.name]);
  const digest = await hashPassword(given.password);
  return write(db, () => {
    const pass = passOf(db, key, 'invitation');
    grant(db, pass, insertPerson(db, { ...given, email, digest, administrator: false }));
    return { email };
  });
}

/** Adds what an invitation gives to the account of whoever is signed in. It has to be theirs. */
export async function joinWith(db: Db, key: string, person: Pick<Person, 'id' | 'email'>): Promise<void> {
  await write(db, () => {
    const pass = passOf(db, key, 'invitation');
    if (pass.email !== person.email)
      throw new InputError('root', `This invitation is for ${pass.email}. Sign out first.`, 409);
    grant(db, pass, person.id);
  });
}

/** Chooses the new password that a recovery is for. All sessions of the account end. */
export async function recover(db: Db, key: string, password: string): Promise<void> {
  const { email } = passOf(db, key, 'recovery');
  await refuseWeak(password, [email, personByEmail(db, email)?.name ?? '']);
  const digest = await hashPassword(password);
  await write(db, () => {
    const pass = passOf(db, key, 'recovery');
    const person = personByEmail(db, pass.email);
    if (!person || !spendPass(db, pass.id)) throw new InputError('root', GONE, 409);
    setPasswordNow(db, person.id, digest);
    tellPerson(person);
  });
}

/** Changes what somebody is called. Histories keep the name that stood there. */
export async function rename(db: Db, userId: string, name: string): Promise<void> {
  await write(db, () => {
    if (!findPerson(db, userId)) throw new InputError('root', 'There is no such account any more.', 409);
    refuseTakenName(db, name, userId);
    setNameNow(db, userId, name);
  });
}
