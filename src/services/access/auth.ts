import { betterAuth } from 'better-auth';
import { drizzleAdapter } from 'better-auth/adapters/drizzle';
import { nextCookies } from 'better-auth/next-js';
import { twoFactor } from 'better-auth/plugins/two-factor';
import { installationSecret } from '../../store/access/secret';
import type { Db } from '../../store/database';
import * as schema from '../../store/access/schema';
import { hashPassword, isPassword } from './passwords';
import { LONGEST_PASSWORD, SHORTEST_PASSWORD } from '../../core/access/password';
import { REMOTE_HEADER } from '../../store/access/toldHeaders';
import { publicAddress } from '../../store/access/publicAddress';
import { connectionKey } from '../../store/database';

const DAY_S = 86_400;

const made = (db: Db) => {
  const secure = publicAddress()?.protocol === 'https:';
  return betterAuth({
    appName: 'Modest Tally',
    baseURL: publicAddress()?.origin ?? 'http://127.0.0.1',
    secret: installationSecret(),
    database: drizzleAdapter(db, { provider: 'sqlite', schema }),
    emailAndPassword: {
      enabled: true,
      // Accounts are made by invitation, and never by whoever comes along.
      disableSignUp: true,
      minPasswordLength: SHORTEST_PASSWORD,
      maxPasswordLength: LONGEST_PASSWORD,
      password: { hash: hashPassword, verify: ({ hash, password }) => isPassword(hash, password) },
    },
    user: { additionalFields: { administrator: { type: 'boolean', input: false, defaultValue: false } } },
    // A session that is not used for two weeks is over.
    session: { expiresIn: 14 * DAY_S, updateAge: DAY_S },
    advanced: {
      // Behind TLS the name itself says that no other host may set it (RFC 6265bis, __Host-).
      cookiePrefix: secure ? '__Host-tally' : 'tally',
      useSecureCookies: false,
      defaultCookieAttributes: { secure, httpOnly: true, sameSite: 'lax', path: '/' },
      ipAddress: { ipAddressHeaders: [REMOTE_HEADER] },
      disableCSRFCheck: false,
    },
    // Its own limits only count by address, and only on its own routes, which aren’t used here.
    rateLimit: { enabled: false },
    telemetry: { enabled: false },
    logger: { disabled: true },
    plugins: [
      twoFactor({
        issuer: 'Modest Tally',
        // The second factor counts once a first code was right, not once the secret was shown.
        skipVerificationOnEnable: false,
      }),
      nextCookies(),
    ],
  });
};

export type Auth = ReturnType<typeof made>;

// Of each connection one, kept outside of bundles that are loaded twice.
const shared = globalThis as { __tallyAuth?: WeakMap<object, Auth> };

/** The library of accounts over a database. */
export function authOf(db: Db): Auth {
  const known = (shared.__tallyAuth ??= new WeakMap<object, Auth>());
  const auth = known.get(connectionKey(db)) ?? made(db);
  known.set(connectionKey(db), auth);
  return auth;
}
