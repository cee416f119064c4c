import { createHmac, randomBytes, timingSafeEqual } from 'node:crypto';
import { publicAddress } from '../../store/access/publicAddress';
import { installationSecret } from '../../store/access/secret';

/*
 * Device cookies: attempts from a browser that has signed in before are limited separately, so that
 * guessing elsewhere cannot lock the owner out.
 * Source: OWASP, "Slow Down Online Guessing Attacks with Device Cookies".
 */

const KNOWN_FOR_S = 365 * 86_400;
const NONCE_BYTES = 18;

/** Behind TLS the `__Host-` prefix keeps other hosts from setting the cookie (RFC 6265bis). */
const cookieName = () => (publicAddress()?.protocol === 'https:' ? '__Host-tally.device' : 'tally.device');

const proofOf = (email: string, nonce: string) =>
  createHmac('sha256', installationSecret()).update(`device\n${email}\n${nonce}`).digest('base64url');

/** Returns a new device cookie for an account. */
export function deviceCookie(email: string) {
  const nonce = randomBytes(NONCE_BYTES).toString('base64url');
  return {
    name: cookieName(),
    value: `${nonce}.${proofOf(email, nonce)}`,
    httpOnly: true,
    sameSite: 'lax' as const,
    secure: publicAddress()?.protocol === 'https:',
    path: '/',
    maxAge: KNOWN_FOR_S,
  };
}

export type DeviceCookie = ReturnType<typeof deviceCookie>;

/** Returns the id of the device if the request carries a valid cookie for the account, or null. */
export function deviceOf(headers: Headers, email: string): string | null {
  const cookies = (headers.get('cookie') ?? '').split(/;\s*/);
  const said = cookies.find((one) => one.startsWith(`${cookieName()}=`))?.slice(cookieName().length + 1);
  const [nonce = '', proof = ''] = (said ?? '').split('.', 2);
  if (nonce.length > 100 || proof === '') return null;
  const [given, right] = [Buffer.from(proof), Buffer.from(proofOf(email, nonce))];
  return given.length === right.length && timingSafeEqual(given, right) ? nonce : null;
}
