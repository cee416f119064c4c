import { namedError } from '../../core/errors';
import { lookup as lookUp, type LookupAddress } from 'node:dns';
import {
  request as requestHttp,
  type ClientRequest,
  type IncomingMessage,
  type RequestOptions,
} from 'node:http';
import { request as requestHttps } from 'node:https';
import { Transform, type Readable } from 'node:stream';
import { AddressRefused, askable, isAllowed, isPublicIp } from './address';

/** What an address answered. The body ends in an error where it is too large or stands still. */
export type Answer = {
  readonly status: number;
  readonly headers: Readonly<Record<string, string | undefined>>;
  readonly body: Readable;
  /** Where it was found in the end, after redirects. */
  readonly address: string;
  /** Whether its end is told by a length or by chunks; if not, a clean end of the connection is all there is to tell it by. */
  readonly delimited: boolean;
};

export type GetOptions = {
  readonly headers?: Readonly<Record<string, string>>;
  /** Origins that may be asked although they are on a private network or this machine (see `isAllowed`). */
  readonly privateHosts: readonly string[];
  readonly maxBytes: number;
  /** How long nothing may come, and how long all of it may take; without the latter as long as something comes. */
  readonly idleMs: number;
  readonly totalMs?: number;
  readonly maxRedirects: number;
  /** Called before each address on the way is asked; throws where it must not be. */
  readonly mayAsk?: (url: URL) => Promise<void>;
};

/** Asks an address. The real one is `get`; a simulated one stands in for it in tests and in the demo. */
export type Get = (address: string, options: GetOptions) => Promise<Answer>;

/** Something went wrong on the way; trying again later may help. */
export class AskFailed extends namedError('AskFailed') {}

type LookupDone = (error: Error | null, address: string | LookupAddress[], family?: number) => void;

/**
 * Looks a host up and lets only addresses of the open internet through. It is the address that is connected to that is
 * checked, so that a name which answers one thing now and another later gains nothing.
 */
function publicOnly(
  hostname: string,
  options: { all?: boolean | undefined; family?: unknown },
  done: LookupDone,
): void {
  lookUp(hostname, { all: true }, (error, addresses) => {
    if (error) {
      done(error, []);
      return;
    }
    const bad = addresses.find(({ address }) => !isPublicIp(address));
    const [first] = addresses;
    if (bad || !first) {
      done(new AddressRefused(refusal(hostname)), []);
    } else if (options.all) done(null, addresses);
    else done(null, first.address, first.family);
  });
}

function refusal(host: string): string {
  return `${host} is on a private network or this machine. Allow that host if it is meant so.`;
}

/** An answer that has begun, and the request that it answers, which is told what goes wrong with the connection. */
type Begun = { readonly message: IncomingMessage; readonly request: ClientRequest };

type AskOptions = GetOptions & { readonly signal: AbortSignal | undefined };

function ask(url: URL, { headers, privateHosts, idleMs, signal, totalMs }: AskOptions): Promise<Begun> {
  const host = url.hostname.replace(/^\[|\]$/g, '');
  const allowPrivate = isAllowed(url, privateHosts);
  const literal = /^[\d.]+$|:/.test(host);
  if (!allowPrivate && literal && !isPublicIp(host)) return Promise.reject(new AddressRefused(refusal(host)));
  return new Promise((resolve, reject) => {
    const options: RequestOptions = { headers: { ...headers }, timeout: idleMs, ...(signal && { signal }) };
    if (!allowPrivate) options.lookup = publicOnly as NonNullable<RequestOptions['lookup']>;
    const request = (url.protocol === 'https:' ? requestHttps : requestHttp)(url, options, (message) =>
      resolve({ message, request }),
    );
    request.on('timeout', () =>
      request.destroy(new AskFailed(`${url.host} did not answer for ${idleMs / 1000} seconds.`)),
    );
    request.on('error', (error) => {
      if (error instanceof AddressRefused || error instanceof AskFailed) reject(error);
      else if (signal?.aborted) reject(tooLong(url.host, totalMs));
      else reject(new AskFailed(`${url.host} cannot be reached (${error.message}).`));
    });
    request.end();
  });
}

/**
 * Asks an address over HTTP or HTTPS with GET, following redirects. Every host on the way is checked. What was sent to
 * show who asks goes to the first origin only. Throws AddressRefused or AskFailed.
 */
export const get: Get = async (address, options) => {
  let url = askable(address);
  const { origin } = url;
  const signal = options.totalMs === undefined ? undefined : AbortSignal.timeout(options.totalMs);
  for (let redirects = 0; ; redirects++) {
    const headers = { ...options.headers };
    if (url.origin !== origin) delete headers.authorization;
    await options.mayAsk?.(url);
    const begun = await ask(url, { ...options, headers, signal });
    const { message } = begun;
    const status = message.statusCode ?? 0;
    const { location } = message.headers;
    if (status < 300 || status >= 400 || !location) {
      return {
        status,
        headers: Object.fromEntries(
          Object.entries(message.headers).map(([name, value]) => [
            name,
            Array.isArray(value) ? value.join(', ') : value,
          ]),
        ),
        body: bounded(begun, url.host, options, signal),
        address: url.href,
        delimited: 'content-length' in message.headers || 'transfer-encoding' in message.headers,
      };
    }
    message.resume();
    if (redirects >= options.maxRedirects)
      throw new AskFailed(`${url.host} redirects more than ${options.maxRedirects} times.`);
    url = askable(location, url.href);
  }
};

function tooLong(host: string, totalMs = 0): AskFailed {
  return new AskFailed(`${host} took longer than ${totalMs / 1000} seconds.`);
}

/** Lets so many bytes of a host's answer through and no more, and ends well only where the answer is complete. */
export function atMost(maxBytes: number, host: string, isComplete = () => true): Transform {
  let bytes = 0;
  return new Transform({
    transform(piece: Buffer, _encoding, done) {
      bytes += piece.length;
      if (bytes > maxBytes) done(new AskFailed(`${host} answered with more than ${maxBytes} bytes.`));
      else done(null, piece);
    },
    flush(done) {
      done(isComplete() ? null : brokeOff(host));
    },
  });
}

function bounded(
  { message, request }: Begun,
  host: string,
  { maxBytes, idleMs, totalMs }: GetOptions,
  signal: AbortSignal | undefined,
): Readable {
  const bound = atMost(maxBytes, host, () => message.complete);
  const failed = (error: Error) =>
    bound.destroy(
      signal?.aborted ? tooLong(host, totalMs) : error instanceof AskFailed ? error : brokeOff(host),
    );
  // From here on it is not a beginning that is waited for.
  request.removeAllListeners('timeout');
  message.setTimeout(idleMs, () =>
    message.destroy(new AskFailed(`${host} stopped in the middle of its answer.`)),
  );
  message.on('error', failed);
  // Where no length is given, a connection that is reset would pass for one that ended: only the request hears of it.
  request.on('error', failed);
  bound.on('close', () => message.destroy());
  return message.pipe(bound);
}

function brokeOff(host: string): AskFailed {
  return new AskFailed(`${host} broke off in the middle of its answer.`);
}
