import { namedError } from '../../core/errors';
import { buffer } from 'node:stream/consumers';
import type { Transform } from 'node:stream';
import { createBrotliDecompress, createGunzip, createInflate } from 'node:zlib';
import sniffEncoding from 'html-encoding-sniffer';
import iconv from 'iconv-lite';
import type { ServedPage } from '../../core/markup/page';
import { AskFailed, atMost, type Answer, type Get } from '../http/get';
import { PRODUCT_TOKEN, Robots } from './robots';

/** What was found at an address is no page. The message is a sentence for the person who asked. */
export class NoPage extends namedError('NoPage') {}

const LIMITS = { maxBytes: 5 * 1024 * 1024, idleMs: 10_000, totalMs: 30_000, maxRedirects: 5 } as const;
const HEADERS = {
  'user-agent': `${PRODUCT_TOKEN}/1`,
  accept: 'text/html, application/xhtml+xml',
  'accept-encoding': 'gzip, deflate, br',
};

/** Limits that tests make smaller. */
export type PageLimits = { readonly [name in keyof typeof LIMITS]: number };

const UNPACKERS: ReadonlyMap<string, () => Transform> = new Map([
  ['gzip', createGunzip],
  ['x-gzip', createGunzip],
  ['deflate', createInflate],
  ['br', createBrotliDecompress],
]);

/**
 * Fetches a page as it is served, where the site's robots.txt allows it, and reads its bytes as text in the encoding that a
 * browser would take. Throws AddressRefused, RobotsRefuse, NoPage or AskFailed.
 */
export async function fetchSitePage(
  get: Get,
  address: string,
  privateHosts: readonly string[],
  limits: PageLimits = LIMITS,
): Promise<ServedPage> {
  const options = { ...limits, headers: HEADERS, privateHosts };
  const robots = new Robots(get, options);
  const answer = await get(address, { ...options, mayAsk: (url) => robots.mayAsk(url) });
  const bytes = await bytesOf(answer, limits.maxBytes);
  const type = answer.headers['content-type'] ?? 'text/html';
  const encoding = sniffEncoding(bytes, charsetOf(type));
  return {
    // The decoder of the platform takes Windows-1252 for Latin-1.
    html: iconv.decode(bytes, encoding),
    status: answer.status,
    finalAddress: answer.address,
    encoding,
    header: (name) => answer.headers[name],
  };
}

async function bytesOf({ headers, body, address }: Answer, maxBytes: number): Promise<Buffer> {
  const { host } = new URL(address);
  const type = (headers['content-type'] ?? 'text/html').split(';')[0]!.trim().toLowerCase();
  if (type !== 'text/html' && type !== 'application/xhtml+xml') {
    body.destroy();
    throw new NoPage(`${host} answered with ${type.slice(0, 80)}, which is no page.`);
  }
  const packed = (headers['content-encoding'] ?? 'identity').trim().toLowerCase();
  if (packed === 'identity' || packed === '') return buffer(body);
  const unpacker = UNPACKERS.get(packed)?.();
  if (!unpacker) {
    body.destroy();
    throw new NoPage(`${host} packed the page in a way that is not known here (${packed.slice(0, 40)}).`);
  }
  const bound = atMost(maxBytes, host);
  // An error on the way ends what is read at the end of it.
  body.on('error', (error) => bound.destroy(error));
  unpacker.on('error', () => bound.destroy(new AskFailed(`${host} packed the page badly.`)));
  bound.on('close', () => {
    unpacker.destroy();
    body.destroy();
  });
  return buffer(body.pipe(unpacker).pipe(bound));
}

function charsetOf(type: string): { transportLayerEncodingLabel?: string } {
  const label = /;\s*charset\s*=\s*"?([^\s";]+)/i.exec(type)?.[1];
  return label === undefined ? {} : { transportLayerEncodingLabel: label };
}
