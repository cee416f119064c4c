import { namedError } from '../../core/errors';
import { text } from 'node:stream/consumers';
import { isoDay } from '../../core/calendar/day';
import type { Span } from '../../core/calendar/span';
import { AskFailed, type Answer, type Get } from '../http/get';

/*
 * A feed is an address that answers with CSV. Days are asked for with `from` and `to`, in the address itself where it
 * says {from} and {to}, else as parameters. Further pages of an answer are named by a Link with rel="next" (RFC 8288).
 */

/** What a feed needs to be asked. */
export type FeedAccess = {
  readonly address: string;
  readonly token: string | null;
  readonly allowPrivate: boolean;
};

/** One page of figures, and the address of the next one. */
export type FeedPage = { readonly csv: string; readonly next: string | null };

/** The feed will not answer however often it is asked. The message is a sentence for the person who set it up. */
export class FeedRefused extends namedError('FeedRefused') {}

export type Retrying = {
  /** Waits; tests do not. */
  readonly pause: (ms: number) => Promise<void>;
  readonly attempts: number;
  /** Wait before the second attempt; doubled with each further one. */
  readonly firstWaitMs: number;
};

export const PATIENCE = { attempts: 7, firstWaitMs: 1000 } as const;
const LONGEST_WAIT_MS = 5 * 60_000;
const PAGE_LIMITS = { maxBytes: 256 * 1024 * 1024, idleMs: 60_000, maxRedirects: 5 };

/** The address at which a feed has the figures of some days. */
export function feedAddress(address: string, days: Span): string {
  const [from, to] = [isoDay(days.firstDay), isoDay(days.lastDay)];
  if (/\{from\}|\{to\}/.test(address)) return address.replaceAll('{from}', from).replaceAll('{to}', to);
  const url = new URL(address);
  url.searchParams.set('from', from);
  url.searchParams.set('to', to);
  return url.href;
}

/**
 * Fetches one page, again and again where the feed is too busy (429) or has trouble of its own (5xx, no answer), waiting
 * longer each time or as long as it asks (Retry-After, RFC 9110 10.2.3).
 * Throws FeedRefused, AddressRefused, or the last AskFailed.
 */
export async function fetchPage(
  get: Get,
  access: FeedAccess,
  address: string,
  retrying: Retrying,
): Promise<FeedPage> {
  const { origin } = new URL(access.address);
  // A further page may lie elsewhere; neither the token nor what was allowed goes there with it.
  const own = new URL(address).origin === origin;
  const headers = {
    accept: 'text/csv',
    ...(access.token && own ? { authorization: `Bearer ${access.token}` } : {}),
  };
  const privateHosts = access.allowPrivate ? [originWithPort(access.address)] : [];
  const options = { headers, privateHosts, ...PAGE_LIMITS };
  for (let attempt = 1; ; attempt++) {
    let wait = retrying.firstWaitMs * 2 ** (attempt - 1);
    try {
      const answer = await get(address, options);
      if (answer.status === 200) {
        const csv = await text(answer.body);
        // Without a length, the end of the last line is the only sign that all of it came.
        if (!answer.delimited && csv !== '' && !/[\r\n]$/.test(csv))
          throw new AskFailed(
            `${new URL(answer.address).host} gave no length, and its answer ends in the middle of a line.`,
          );
        return { csv, next: nextAddress(answer.headers.link, answer.address) };
      }
      answer.body.destroy();
      wait = Math.max(wait, retryAfter(answer) ?? 0);
      if (answer.status !== 429 && answer.status < 500) throw new FeedRefused(complaint(answer));
      throw new AskFailed(complaint(answer));
    } catch (error) {
      if (!(error instanceof AskFailed) || attempt >= retrying.attempts) throw error;
    }
    await retrying.pause(Math.min(wait, LONGEST_WAIT_MS));
  }
}

/** The origin of an address, with its port also where it is the usual one. */
function originWithPort(address: string): string {
  const { protocol, hostname, port } = new URL(address);
  return `${protocol}//${hostname}:${port || (protocol === 'https:' ? '443' : '80')}`;
}

function complaint({ status, address }: Answer): string {
  const { host } = new URL(address);
  if (status === 401 || status === 403) return `${host} does not accept the token (${status}).`;
  if (status === 404 || status === 410) return `${host} has nothing at this address (${status}).`;
  if (status === 429) return `${host} is asked too often (429).`;
  return status >= 500 ? `${host} has trouble of its own (${status}).` : `${host} answered with ${status}.`;
}

/** Milliseconds that an answer asks to wait; null where it does not say. */
function retryAfter({ headers }: Answer): number | null {
  const value = headers['retry-after'];
  if (value === undefined) return null;
  if (/^\d+$/.test(value)) return Number(value) * 1000;
  const at = Date.parse(value);
  return Number.isNaN(at) ? null : Math.max(0, at - Date.now());
}

/** The address of the next page by a Link field (RFC 8288): `<...>; rel="next"`. */
export function nextAddress(link: string | undefined, base: string): string | null {
  for (const [, target, parameters] of (link ?? '').matchAll(/<([^>]*)>((?:\s*;\s*[^,;<]+)*)/g)) {
    if (/;\s*rel\s*=\s*"?(?:[^"]*\s)?next(?:\s[^"]*)?"?/i.test(parameters ?? '')) {
      if (!URL.canParse(target!, base))
        throw new FeedRefused('The feed names a next page at what is no address.');
      return new URL(target!, base).href;
    }
  }
  return null;
}
