import { lookup as lookUp, type LookupAddress } from 'node:dns';
import { request as requestHttp, type IncomingMessage, type RequestOptions } from 'node:http';
import { request as requestHttps } from 'node:https';
import { Transform, type Readable } from 'node:stream';
import { AddressRefused, askable, isPublicIp } from './address';

/** What an address answered. The body ends in an error where it is too large or stands still. */
export type Answer = {
  readonly status: number;
  readonly headers: Readonly<Record<string, string | undefined>>;
  readonly body: Readable;
  /** Where it was found in the end, after redirects. */
  readonly address: string;
};

export type GetOptions = {
  readonly headers?: Readonly<Record<string, string>>;
  /** Hosts that may be asked although they are on a private network or this machine: names, with or without a port. */
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
export class AskFailed extends Error {
  override name = 'AskFailed';
}

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

type AskOptions = GetOptions & { readonly signal: AbortSignal | undefined };

function ask(
  url: URL,
  { headers, privateHosts, idleMs, signal, totalMs }: AskOptions,
): Promise<IncomingMessage> {
  const host = url.hostname.replace(/^\[|\]$/g, '');
  const allowPrivate = [url.host, host].some((name) => privateHosts.includes(name));
  const literal = /^[\d.]+$|:/.test(host);
  if (!allowPrivate && literal && !isPublicIp(host)) return Promise.reject(new AddressRefused(refusal(host)));
  return new Promise((resolve, reject) => {
    const options: RequestOptions = { headers: { ...headers }, timeout: idleMs, ...(signal && { signal }) };
    if (!allowPrivate) options.lookup = publicOnly as NonNullable<RequestOptions['lookup']>;
    const request = (url.protocol === 'https:' ? requestHttps : requestHttp)(url, options, resolve);
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
 * show who asks goes to the first host only. Throws AddressRefused or AskFailed.
 */
export const get: Get = async (address, options) => {
  let url = askable(address);
  const { host } = url;
  const signal = options.totalMs === undefined ? undefined : AbortSignal.timeout(options.totalMs);
  for (let redirects = 0; ; redirects++) {
    const headers = { ...options.headers };
    if (url.host !== host) delete headers.authorization;
    await options.mayAsk?.(url);
    const message = await ask(url, { ...options, headers, signal });
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
        body: bounded(message, url.host, options, signal),
        address: url.href,
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

/** Lets so many bytes of a host's answer through and no more. */
export function atMost(maxBytes: number, host: string): Transform {
  let bytes = 0;
  return new Transform({
    transform(piece: Buffer, _encoding, done) {
      bytes += piece.length;
      if (bytes > maxBytes) done(new AskFailed(`${host} answered with more than ${maxBytes} bytes.`));
      else done(null, piece);
    },
  });
}

function bounded(
  message: IncomingMessage,
  host: string,
  { maxBytes, idleMs, totalMs }: GetOptions,
  signal: AbortSignal | undefined,
): Readable {
  message.setTimeout(idleMs, () =>
    message.destroy(new AskFailed(`${host} stopped in the middle of its answer.`)),
  );
  const bound = atMost(maxBytes, host);
  message.on('error', (error) => {
    const brokeOff = new AskFailed(`${host} broke off in the middle of its answer.`);
    bound.destroy(signal?.aborted ? tooLong(host, totalMs) : error instanceof AskFailed ? error : brokeOff);
  });
  bound.on('close', () => message.destroy());
  return message.pipe(bound);
}
