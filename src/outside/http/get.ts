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
  /** Whether hosts on private networks and this machine may be asked. */
  readonly allowPrivate: boolean;
  readonly maxBytes: number;
  /** How long nothing may come. */
  readonly idleMs: number;
  readonly maxRedirects: number;
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

function ask(url: URL, { headers, allowPrivate, idleMs }: GetOptions): Promise<IncomingMessage> {
  const host = url.hostname.replace(/^\[|\]$/g, '');
  const literal = /^[\d.]+$|:/.test(host);
  if (!allowPrivate && literal && !isPublicIp(host)) return Promise.reject(new AddressRefused(refusal(host)));
  return new Promise((resolve, reject) => {
    const options: RequestOptions = { headers: { ...headers }, timeout: idleMs };
    if (!allowPrivate) options.lookup = publicOnly as NonNullable<RequestOptions['lookup']>;
    const request = (url.protocol === 'https:' ? requestHttps : requestHttp)(url, options, resolve);
    request.on('timeout', () =>
      request.destroy(new AskFailed(`${url.host} did not answer for ${idleMs / 1000} seconds.`)),
    );
    request.on('error', (error) =>
      reject(
        error instanceof AddressRefused || error instanceof AskFailed
          ? error
          : new AskFailed(`${url.host} cannot be reached (${error.message}).`),
      ),
    );
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
  for (let redirects = 0; ; redirects++) {
    const headers = { ...options.headers };
    if (url.host !== host) delete headers.authorization;
    const message = await ask(url, { ...options, headers });
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
        body: bounded(message, url.host, options),
        address: url.href,
      };
    }
    message.resume();
    if (redirects >= options.maxRedirects)
      throw new AskFailed(`${url.host} redirects more than ${options.maxRedirects} times.`);
    url = askable(location, url.href);
  }
};

function bounded(message: IncomingMessage, host: string, { maxBytes, idleMs }: GetOptions): Readable {
  let bytes = 0;
  message.setTimeout(idleMs, () =>
    message.destroy(new AskFailed(`${host} stopped in the middle of its answer.`)),
  );
  const bound = new Transform({
    transform(piece: Buffer, _encoding, done) {
      bytes += piece.length;
      if (bytes > maxBytes) done(new AskFailed(`${host} answered with more than ${maxBytes} bytes.`));
      else done(null, piece);
    },
  });
  message.on('error', (error) => bound.destroy(error));
  bound.on('close', () => message.destroy());
  message.on('aborted', () => bound.destroy(new AskFailed(`${host} broke off in the middle of its answer.`)));
  return message.pipe(bound);
}
