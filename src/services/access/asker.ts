import { ALONE, NOBODY, type Principal } from '../../core/access/rights';
import { anyAccount, endSessions, findPerson, rolesOf } from '../../store/access/people';
import { isSelf } from '../../store/access/self';
import { findToken, rememberUse } from '../../store/access/tokens';
import type { Db } from '../../store/database';

const LONGEST_SESSION_MS = 30 * 86_400_000;

/**
 * The principal of a request: a script by its token, a person by their session, or whoever is alone
 * here.
 */
export async function askerFrom(db: Db, headers: Headers): Promise<Principal> {
  if (isSelf(headers)) return ALONE;
  const authorization = headers.get('authorization');
  if (authorization !== null) return tokenAsker(db, authorization);
  if (!anyAccount(db)) return ALONE;
  // The library of accounts takes a second to load, which nobody waits for who has no account.
  const { authOf } = await import('./auth');
  const found = await authOf(db).api.getSession({ headers, query: { disableCookieCache: true } });
  // However often it is used, a session ends: somebody has to give the password again (ASVS 3.3.2).
  if (found && Date.now() - found.session.createdAt.getTime() > LONGEST_SESSION_MS) {
    await endSessions(db, found.user.id, { id: found.session.id });
    return NOBODY;
  }
  // What is not in the session's own row is read anew, so that who loses a role loses it at once.
  const person = found && findPerson(db, found.user.id);
  if (!found || !person) return NOBODY;
  const { id, name, email, administrator } = person;
  return {
    kind: 'person',
    ...{ id, name, email, administrator, sessionId: found.session.id },
    roles: rolesOf(db, id),
  };
}

/**
 * The token in a header: by itself, or as a basic password, the only way calendar programs know.
 */
function keyIn(authorization: string): string | undefined {
  const basic = /^Basic ([\w+/=]{1,400})$/i.exec(authorization)?.[1];
  const said =
    basic === undefined
      ? /^Bearer (.+)$/i.exec(authorization)?.[1]
      : Buffer.from(basic, 'base64').toString().split(':').at(-1);
  return said !== undefined && /^[\w-]{20,100}$/.test(said) ? said : undefined;
}

/** A request that names a token is never anything else, so that one that ended is noticed. */
function tokenAsker(db: Db, authorization: string): Principal {
  const key = keyIn(authorization.trim());
  const token = key === undefined ? null : findToken(db, key);
  if (!token) return NOBODY;
  rememberUse(db, token);
  const { id, name, siteId, right } = token;
  return { kind: 'token', id, name, siteId, right };
}
