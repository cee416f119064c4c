import type { APIError } from 'better-auth/api';
import { isNamed } from '../../core/errors';
import type { Principal } from '../../core/access/rights';
import { recordAudit } from '../../store/access/auditEntries';
import { findPerson, personByEmail, personSigningIn, rolesOf, type Person } from '../../store/access/people';
import type { Db } from '../../store/database';
import { isBusy, write } from '../../store/write';
import { InputError } from '../../store/inputError';
import { REMOTE_HEADER } from '../../store/access/toldHeaders';
import { authOf } from './auth';
import { deviceCookie, deviceOf, type DeviceCookie } from './knownDevices';
import { refuseWeak } from './passwords';
import { slowed } from './slowing';
import { once } from './usedCodes';

const fromOf = (headers: Headers) => headers.get(REMOTE_HEADER) ?? 'unknown';

/**
 * The account library’s answer to a call; null if it refuses the input. The library doesn’t wait
 * for other writers, so the call is repeated here.
 */
async function asked<T>(call: () => Promise<T>): Promise<T | null> {
  for (let left = 100; ; left--) {
    try {
      return await call();
    } catch (error) {
      // The library is shared by all bundles, and so are its errors.
      if (isNamed(error, 'APIError') && (error as APIError).statusCode < 500) return null;
      if (!(isBusy(error) || isBusy((error as Error).cause)) || left === 0) throw error;
    }
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
}

const WRONG = 'The address or the password is not right.';
const WRONG_CODE = 'This code is not right, or was used already. Codes change every half minute.';

/**
 * Signs an account in, or returns `codeWanted` if its second factor is still needed. Sets the
 * session cookies on the response; the caller sets the returned device cookie. Throws InputError
 * and TooManyTries.
 */
export async function signIn(
  db: Db,
  headers: Headers,
  { email, password }: { readonly email: string; readonly password: string },
): Promise<{ codeWanted: boolean; device: DeviceCookie | null }> {
  const tried = { who: email, from: fromOf(headers), device: deviceOf(headers, email) };
  const result = await slowed(tried, () =>
    asked(() => authOf(db).api.signInEmail({ body: { email, password, rememberMe: true }, headers })),
  );
  if (!result) {
    console.warn('A sign-in failed.');
    throw new InputError('root', WRONG);
  }
  if ('twoFactorRedirect' in result) return { codeWanted: true, device: null };
  await signedIn(db, personByEmail(db, email));
  return { codeWanted: false, device: deviceCookie(email) };
}

/** The cookie that better-auth sets between password and code. */
const BETWEEN_STEPS = /(?:^|;\s*)(?:__Host-)?tally\.two_factor=([^;]+)/;

/** The account that gave its password but no code yet. The library verifies the cookie. */
function awaitingSecondFactor(db: Db, headers: Headers): Person | null {
  const signed = BETWEEN_STEPS.exec(headers.get('cookie') ?? '')?.[1];
  const identifier = signed && decoded(signed).split('.', 1)[0];
  return identifier ? personSigningIn(db, identifier) : null;
}

function decoded(text: string): string {
  try {
    return decodeURIComponent(text);
  } catch {
    return '';
  }
}

/** The second step: a code of the second factor, or a recovery code. */
export async function signInByCode(db: Db, headers: Headers, code: string): Promise<DeviceCookie> {
  const plain = code.replace(/\s/g, '');
  const person = awaitingSecondFactor(db, headers);
  const device = person && deviceOf(headers, person.email);
  const who = person?.id ?? 'nobody';
  const result = await slowed({ who: `code ${who}`, from: fromOf(headers), device }, () =>
    once(who, plain, () =>
      asked(() =>
        /^\d{6}$/.test(plain)
          ? authOf(db).api.verifyTOTP({ body: { code: plain }, headers })
          : authOf(db).api.verifyBackupCode({ body: { code: plain }, headers }),
      ),
    ),
  );
  if (!result) {
    console.warn('A code of a second factor was wrong.');
    throw new InputError('code', WRONG_CODE);
  }
  await signedIn(db, findPerson(db, result.user.id));
  return deviceCookie(result.user.email);
}

async function signedIn(db: Db, person: Person | null): Promise<void> {
  if (!person) return;
  const { id, name, email, administrator } = person;
  const who: Principal = {
    kind: 'person',
    id,
    name,
    email,
    administrator,
    sessionId: '',
    roles: rolesOf(db, id),
  };
  await write(db, () => auditSignIn(db, who, 'signed in'));
}

function auditSignIn(db: Db, asker: Principal, auditAction: string): void {
  recordAudit(db, { asker, auditAction, siteId: null, thing: null, noted: false });
}

export async function signOut(db: Db, headers: Headers): Promise<void> {
  await asked(() => authOf(db).api.signOut({ headers }));
}

/**
 * Throws InputError unless the password is that of the signed-in person; checked before changing an
 * account.
 */
async function refuseWrongPassword<T>(who: string, headers: Headers, call: () => Promise<T>): Promise<T> {
  const result = await slowed({ who, from: fromOf(headers) }, () => asked(call));
  if (!result) throw new InputError('current', 'This is not your password.');
  return result;
}

/** Changes one's own password; all other sessions end. */
export async function changePassword(
  db: Db,
  headers: Headers,
  person: Pick<Person, 'id' | 'name' | 'email'>,
  { current, password }: { readonly current: string; readonly password: string },
): Promise<void> {
  await refuseWeak(password, [person.email, person.name]);
  const body = { currentPassword: current, newPassword: password, revokeOtherSessions: true };
  await refuseWrongPassword(person.email, headers, () => authOf(db).api.changePassword({ body, headers }));
}

/** The secret for an authenticator app (RFC 6238), and recovery codes; both are shown once. */
export type SecondFactor = { readonly address: string; readonly spare: readonly string[] };

/** Begins a second factor; it counts once a first code was right. */
export async function beginSecondFactor(
  db: Db,
  headers: Headers,
  person: Pick<Person, 'email'>,
  password: string,
): Promise<SecondFactor> {
  if (personByEmail(db, person.email)?.secondFactor)
    throw new InputError(
      'root',
      'A second factor is already on. Turn it off before setting up another.',
      409,
    );
  const begun = await refuseWrongPassword(person.email, headers, () =>
    authOf(db).api.enableTwoFactor({ body: { method: 'totp', password }, headers }),
  );
  if (!('totpURI' in begun)) throw new Error('The second factor is none of codes.');
  return { address: begun.totpURI, spare: begun.backupCodes };
}

/** Confirms a second factor by its first code. */
export async function confirmSecondFactor(
  db: Db,
  headers: Headers,
  { id }: Pick<Person, 'id'>,
  code: string,
): Promise<void> {
  const plain = code.replace(/\s/g, '');
  const result = await slowed({ who: `code ${id}`, from: fromOf(headers) }, () =>
    once(id, plain, () => asked(() => authOf(db).api.verifyTOTP({ body: { code: plain }, headers }))),
  );
  if (!result) throw new InputError('code', WRONG_CODE);
}

/** Takes one's own second factor off. */
export async function endSecondFactor(
  db: Db,
  headers: Headers,
  person: Pick<Person, 'email'>,
  password: string,
): Promise<void> {
  await refuseWrongPassword(person.email, headers, () =>
    authOf(db).api.disableTwoFactor({ body: { password }, headers }),
  );
}
