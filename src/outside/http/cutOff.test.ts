import { createServer, type Server, type Socket } from 'node:net';
import type { AddressInfo } from 'node:net';
import { text } from 'node:stream/consumers';
import { gzipSync } from 'node:zlib';
import { fetchPage } from '../figuresFeed/feed';
import { fetchSitePage } from '../sitePages/page';
import { isAllowed } from './address';
import { AskFailed, get, type GetOptions } from './get';

/*
 * Answers that break off, byte by byte from a bare socket: only one that ended as its protocol says (RFC 9112, 6.3) is taken.
 */

let server: Server | null = null;
const sockets = new Set<Socket>();
afterEach(() => {
  for (const socket of sockets) socket.destroy();
  server?.close();
  server = null;
});

/** A server that sends just these bytes and then ends its connection: cleanly, by a reset, or never. */
async function serve(
  head: string,
  body: string | Buffer,
  end: 'closes' | 'resets' | 'stays',
): Promise<string> {
  server = createServer((socket) => {
    sockets.add(socket);
    socket.on('error', () => {});
    socket.once('data', (asked) => {
      const robots = asked.toString().startsWith('GET /robots.txt');
      if (robots) {
        socket.end('HTTP/1.1 404 Not Found\r\nContent-Length: 0\r\nConnection: close\r\n\r\n');
        return;
      }
      socket.write(`HTTP/1.1 200 OK\r\n${head}\r\n`);
      socket.write(body, () => {
        if (end === 'closes') socket.end();
        // Once what was sent has arrived, so that it is the end that is missing and not the beginning.
        else if (end === 'resets') setTimeout(() => socket.resetAndDestroy(), 50);
      });
    });
  });
  await new Promise<void>((resolve) => server!.listen(0, '127.0.0.1', resolve));
  return `http://127.0.0.1:${(server.address() as AddressInfo).port}/`;
}

const CSV = 'date,page,clicks,impressions\n2026-11-01,/a/,2';
const WHOLE = 'date,page,clicks,impressions\n2026-11-01,/a/,2,20000\n';
const chunk = (part: string) => `${Buffer.byteLength(part).toString(16)}\r\n${part}\r\n`;

const CUT: [string, string, string, 'closes' | 'resets' | 'stays'][] = [
  ['a length, and less than that', `Content-Length: ${WHOLE.length}\r\n`, CSV, 'closes'],
  ['a length, and a reset', `Content-Length: ${WHOLE.length}\r\n`, CSV, 'resets'],
  ['a length, and silence', `Content-Length: ${WHOLE.length}\r\n`, CSV, 'stays'],
  ['chunks without the last', 'Transfer-Encoding: chunked\r\n', chunk(CSV), 'closes'],
  ['chunks, and a reset', 'Transfer-Encoding: chunked\r\n', chunk(CSV), 'resets'],
  ['chunks, and silence', 'Transfer-Encoding: chunked\r\n', chunk(CSV), 'stays'],
  ['half a chunk', 'Transfer-Encoding: chunked\r\n', chunk(CSV).slice(0, -10), 'closes'],
  ['no length, and a reset', '', CSV, 'resets'],
  ['no length, a reset after a whole line', '', WHOLE, 'resets'],
  ['no length, and silence', '', CSV, 'stays'],
];

const OPTIONS: GetOptions = {
  privateHosts: ['127.0.0.1'],
  maxBytes: 100_000,
  idleMs: 300,
  totalMs: 600,
  maxRedirects: 3,
};
const allowing = (address: string): GetOptions => ({ ...OPTIONS, privateHosts: [new URL(address).host] });

test.each(CUT)('%s: no answer', async (_name, head, body, end) => {
  const home = await serve(head, body, end);
  const answer = await get(home, allowing(home));
  await expect(text(answer.body)).rejects.toBeInstanceOf(AskFailed);
});

test('a time limit in the middle of an answer without a length: no answer', async () => {
  const home = await serve('', CSV, 'stays');
  const answer = await get(home, { ...allowing(home), idleMs: 5000, totalMs: 400 });
  await expect(text(answer.body)).rejects.toThrow(/took longer than 0.4 seconds/);
});

const access = (address: string) => ({ address, token: null, allowPrivate: true });
const ONCE = { attempts: 2, firstWaitMs: 1, pause: async () => {} };

test('a feed asks again for what broke off, and takes nothing of it', async () => {
  for (const [, head, body] of CUT.filter(([, , , end]) => end !== 'stays')) {
    const home = await serve(head, body, 'resets');
    await expect(fetchPage(get, access(home), home, ONCE)).rejects.toBeInstanceOf(AskFailed);
    server!.close();
  }
  // Without a length, a connection that closed in the middle of a line looks like one that closed after it.
  const cut = await serve('', CSV, 'closes');
  await expect(fetchPage(get, access(cut), cut, ONCE)).rejects.toThrow(/ends in the middle of a line/);
  server!.close();
  const whole = await serve('', WHOLE, 'closes');
  expect((await fetchPage(get, access(whole), whole, ONCE)).csv).toBe(WHOLE);
});

test('a page that broke off is no page, packed or not', async () => {
  const html = 'Content-Type: text/html\r\n';
  const packed = gzipSync('<h1>Packed</h1>'.repeat(500));
  const tries: [string, string | Buffer, 'closes' | 'resets'][] = [
    [html, '<h1>Half', 'resets'],
    [`${html}Content-Length: 500\r\n`, '<h1>Half', 'closes'],
    [`${html}Content-Encoding: gzip\r\n`, packed.subarray(0, 40), 'closes'],
  ];
  for (const [head, body, end] of tries) {
    const home = await serve(head, body, end);
    const limits = { maxBytes: 100_000, idleMs: 300, totalMs: 900, maxRedirects: 5 };
    await expect(fetchSitePage(get, home, [new URL(home).host], limits)).rejects.toBeInstanceOf(AskFailed);
    server!.close();
  }
});

test.each<[string, string[], boolean]>([
  ['http://192.168.1.4/', ['192.168.1.4'], true],
  ['https://192.168.1.4/', ['192.168.1.4'], true],
  ['http://192.168.1.4:8080/', ['192.168.1.4'], false],
  ['http://192.168.1.4:443/', ['192.168.1.4'], false],
  ['http://192.168.1.4:8080/', ['192.168.1.4:8080'], true],
  ['http://192.168.1.4/', ['192.168.1.4:80'], true],
  ['http://192.168.1.4:8081/', ['192.168.1.4:8080'], false],
  ['http://192.168.1.4:8080/', ['http://192.168.1.4:8080'], true],
  ['https://192.168.1.4:8080/', ['http://192.168.1.4:8080'], false],
  ['https://192.168.1.4/', ['http://192.168.1.4'], false],
  ['http://[fd00::1]/', ['fd00::1'], true],
  ['http://[fd00::1]:81/', ['fd00::1'], false],
  ['http://[fd00::1]:81/', ['[fd00::1]:81'], true],
])('%s is allowed by %j: %p', (address, allowed, yes) => {
  expect(isAllowed(new URL(address), allowed)).toBe(yes);
});

test('a token goes to its own origin and no other, however it is led there', async () => {
  const asked: [string, string | undefined][] = [];
  const own = 'https://figures.quillow-bees.example/daily';
  const elsewhere = 'https://figures.quillow-bees.example:8443/daily?p=2';
  const watching = async (address: string, { headers, privateHosts }: GetOptions) => {
    asked.push([address, headers?.authorization]);
    expect(privateHosts).toEqual(['https://figures.quillow-bees.example:443']);
    return { ...(await get0(address)), address };
  };
  const get0 = async (address: string) => ({
    ...{
      status: 200,
      delimited: true,
      headers: address === own ? { link: `<${elsewhere}>; rel="next"` } : {},
    },
    body: (await import('node:stream')).Readable.from([WHOLE]),
  });
  const feed = { address: own, token: 'secret', allowPrivate: true };
  const first = await fetchPage(watching, feed, own, ONCE);
  await fetchPage(watching, feed, first.next!, ONCE);
  await fetchPage(watching, feed, 'http://figures.quillow-bees.example/daily', ONCE);
  expect(asked.map(([, token]) => token)).toEqual(['Bearer secret', undefined, undefined]);
});
