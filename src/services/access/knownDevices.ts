import { createHmac, randomBytes, timingSafeEqual } from 'node:crypto';
import { publicAddress } from '../../store/access/publicAddress';
import { installationSecret } from '../../store/access/secret';

/*
 * A browser in which somebody has signed in before bears a cookie that says so. Its tries are
 * counted apart, so that whoever guesses passwords elsewhere cannot lock the owner out. Source:
 * OWASP, "Slow Down Online Guessing Attacks with Device Cookies".
 */

const KNOWN_FOR_S = 365 * 86_400;
const NONCE_BYTES = 18;

/**
 * The name of the cookie; behind TLS the name itself says that no other host may set it (RFC
 * 6265bis, `__Host-`).
 */
const cookieName = () => (publicAddress()?.protocol === 'https:' ? '__Host-tally.device' : 'tally.device');

const proofOf = (email: string, nonce: string) =>
  createHmac('sha256', installationSecret()).update(`device\n${email}\n${nonce}`).digest('base64url');

/**
 * A cookie by which a browser is known as one in which somebody of an e-mail address has signed in.
 */
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

/**
 * What tells a browser apart in which somebody of an e-mail address has signed in; null for any
 * other.
 */
export function deviceOf(headers: Headers, email: string): string | null {
  const cookies = (headers.get('cookie') ?? '').split(/;\s*/);
  const said = cookies.find((one) => one.startsWith(`${cookieName()}=`))?.slice(cookieName().length + 1);
  const [nonce = '', proof = ''] = (said ?? '').split('.', 2);
  if (nonce.length > 100 || proof === '') return null;
  const [given, right] = [Buffer.from(proof), Buffer.from(proofOf(email, nonce))];
  return given.length === right.length && timingSafeEqual(given, right) ? nonce : null;
}
