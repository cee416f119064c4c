import { createServer, type RequestListener, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { text } from 'node:stream/consumers';
import { addDays, asDay, isoDay } from '../../core/calendar/day';
import { AddressRefused, isPublicIp } from '../http/address';
import { AskFailed, get, type GetOptions } from '../http/get';
import { feedAddress, FeedRefused, fetchPage, nextAddress } from './feed';
import { simulatedFeed, type TrueRow } from './simulated';

let server: Server | null = null;
afterEach(() => {
  server?.closeAllConnections();
  server?.close();
  server = null;
});

async function serve(handle: RequestListener): Promise<string> {
  server = createServer(handle);
  await new Promise<void>((resolve) => server!.listen(0, '127.0.0.1', resolve));
  const { port } = server.address() as AddressInfo;
  OPTIONS = { ...OPTIONS, privateHosts: [`127.0.0.1:${port}`, `localhost:${port}`] };
  return `http://127.0.0.1:${port}`;
}

let OPTIONS: GetOptions = {
  privateHosts: [],
  maxBytes: 1000,
  idleMs: 300,
  maxRedirects: 3,
};

describe('addresses that may be asked', () => {
  test.each([
    ['127.0.0.1', false],
    ['10.1.2.3', false],
    ['172.16.0.1', false],
    ['192.168.1.1', false],
    ['169.254.169.254', false],
    ['100.64.0.1', false],
    ['0.0.0.0', false],
    ['224.0.0.1', false],
    ['::1', false],
    ['fe80::1', false],
    ['fd00::1', false],
    ['::ffff:127.0.0.1', false],
    ['64:ff9b::7f00:1', false],
    ['not an address', false],
    ['93.184.216.34', true],
    ['2606:2800:220:1::1', true],
  ])('%s: %p', (ip, isPublic) => {
    expect(isPublicIp(ip)).toBe(isPublic);
  });

  test('this machine is not asked unless that is allowed, by number or by name, first or in a redirect', async () => {
    let asked = 0;
    const home = await serve((_request, response) => {
      asked++;
      response.end('secret');
    });
    const closed = { ...OPTIONS, privateHosts: [] };
    const { port } = new URL(home);
    for (const host of ['127.0.0.1', 'localhost', '[::1]', '2130706433', '0x7f.1']) {
      await expect(get(`http://${host}:${port}/`, closed)).rejects.toBeInstanceOf(AddressRefused);
    }
    expect(asked).toBe(0);
    expect(await text((await get(home, OPTIONS)).body)).toBe('secret');
  });

  test.each([
    'ftp://quillow-bees.example/',
    'file:///etc/hostname',
    'nonsense',
    'https://a:b@quillow-bees.example/',
  ])('%s is none', async (address) => {
    await expect(get(address, OPTIONS)).rejects.toBeInstanceOf(AddressRefused);
  });
});

describe('asking', () => {
  test('redirects are followed, not for ever, and the token stays with its host', async () => {
    const seen: (string | undefined)[] = [];
    const home = await serve((request, response) => {
      seen.push(request.headers.authorization);
      if (request.url === '/a') response.writeHead(302, { location: '/b' }).end();
      else if (request.url === '/away') {
        const { port } = new URL(`http://${request.headers.host}`);
        response.writeHead(302, { location: `http://localhost:${port}/b` }).end();
      } else if (request.url === '/round') response.writeHead(302, { location: '/round' }).end();
      else response.end('here');
    });
    const options = { ...OPTIONS, headers: { authorization: 'Bearer t' } };
    const found = await get(`${home}/a`, options);
    expect([await text(found.body), found.address]).toEqual(['here', `${home}/b`]);
    await expect(get(`${home}/round`, options)).rejects.toThrow(/redirects more than 3 times/);
    seen.length = 0;
    await get(`${home}/away`, options).then(
      ({ body }) => text(body),
      // Where the name leads to IPv6 alone, nobody listens there; the token has not left either way.
      () => null,
    );
    expect(seen.slice(1)).not.toContain('Bearer t');
  });

  test('an answer that is too large, stands still or breaks off is an error', async () => {
    const home = await serve((request, response) => {
      if (request.url === '/large') response.end('x'.repeat(5000));
      else if (request.url === '/still') response.write('x');
      else if (request.url === '/broken') {
        response.writeHead(200, { 'content-length': '100' });
        response.write('x', () => response.destroy());
      }
    });
    for (const path of ['/large', '/still', '/broken', '/never']) {
      const asking = get(home + path, OPTIONS).then(({ body }) => text(body));
      await expect(asking).rejects.toBeInstanceOf(AskFailed);
    }
    await expect(get('http://127.0.0.1:1/', { ...OPTIONS, privateHosts: ['127.0.0.1:1'] })).rejects.toThrow(
      /cannot be reached/,
    );
  });
});

describe('a feed', () => {
  const waits: number[] = [];
  const retrying = { pause: async (ms: number) => void waits.push(ms), attempts: 4, firstWaitMs: 100 };
  const access = { address: 'http://127.0.0.1/', token: 'open', allowPrivate: true };
  beforeEach(() => {
    waits.length = 0;
  });

  test('days are asked for where the address says, else as parameters', () => {
    const days = { firstDay: asDay(20_454), lastDay: asDay(20_455) };
    expect(feedAddress('https://f.example/{from}/{to}.csv', days)).toBe(
      'https://f.example/2026-01-01/2026-01-02.csv',
    );
    expect(feedAddress('https://f.example/daily?site=1', days)).toBe(
      'https://f.example/daily?site=1&from=2026-01-01&to=2026-01-02',
    );
  });

  // RFC 8288, section 3.5: the example, and several links in one field.
  test.each([
    ['<http://example.com/TheBook/chapter2>; rel="previous"; title="previous chapter"', null],
    [
      '</TheBook/chapter2>; rel="previous", </TheBook/chapter4>; rel="next"',
      'https://f.example/TheBook/chapter4',
    ],
    ['<https://g.example/2>; rel=next', 'https://g.example/2'],
    ['<?page=2>; title="a"; rel="last next"', 'https://f.example/a?page=2'],
    [undefined, null],
  ])('the next page by the link %p', (link, next) => {
    expect(nextAddress(link, 'https://f.example/a')).toBe(next);
  });

  test('too busy and in trouble is tried again, longer each time or as long as it asks', async () => {
    let asked = 0;
    const home = await serve((request, response) => {
      expect(request.headers.authorization).toBe('Bearer open');
      asked++;
      if (asked === 1) response.writeHead(503).end();
      else if (asked === 2) response.writeHead(429, { 'retry-after': '7' }).end();
      else response.end('a,b');
    });
    expect(await fetchPage(get, { ...access, address: home }, home, retrying)).toEqual({
      csv: 'a,b',
      next: null,
    });
    expect(waits).toEqual([100, 7000]);
  });

  test('it is given up in the end, and at once where asking again cannot help', async () => {
    let status = 500;
    const home = await serve((_request, response) => response.writeHead(status).end());
    await expect(fetchPage(get, { ...access, address: home }, home, retrying)).rejects.toThrow(
      /has trouble of its own \(500\)/,
    );
    expect(waits).toEqual([100, 200, 400]);
    for (const [code, why] of [
      [401, /does not accept the token/],
      [404, /has nothing at this address/],
      [418, /answered with 418/],
    ] as const) {
      status = code;
      await expect(fetchPage(get, { ...access, address: home }, home, retrying)).rejects.toThrow(why);
      await expect(fetchPage(get, { ...access, address: home }, home, retrying)).rejects.toBeInstanceOf(
        FeedRefused,
      );
    }
    expect(waits).toHaveLength(3);
  });

  test('the simulated one is late, revises its newest days, pages and fails', async () => {
    const today = asDay(20_500);
    const row = (day: number, i: number): TrueRow => ({
      ...{ day: asDay(day), page: `/p${i}/`, device: 'mobile', clicks: 10, impressions: 100, position: 4 },
    });
    const rowsOf = (day: number) => Array.from({ length: 150 }, (_, i) => row(day, i));
    const read = async (on: number) => {
      const simulated = simulatedFeed({ today: asDay(on), token: 'open', rowsOf });
      const lines: string[] = [];
      const days = { firstDay: addDays(today, -9), lastDay: today };
      let [next, pages] = [feedAddress('https://feed.quillow-bees.example/', days) as string | null, 0];
      while (next) {
        const page = await fetchPage(simulated, { ...access, address: next }, next, retrying);
        lines.push(...page.csv.split('\n').slice(1));
        next = page.next;
        pages++;
      }
      return { lines, pages };
    };
    const first = await read(today);
    expect(first.pages).toBeGreaterThan(1);
    expect(waits.length).toBeGreaterThan(0);
    const newest = first.lines.at(-1)!.slice(0, 10);
    expect(newest <= isoDay(addDays(today, -2))).toBe(true);
    const clicksOn = (lines: string[], day: string) =>
      Number(lines.find((one) => one.startsWith(`${day},/p0/`))!.split(',')[3]);
    // A week later the same day says more, and what was old says the same.
    const later = await read(today + 7);
    expect(clicksOn(later.lines, newest)).toBeGreaterThan(clicksOn(first.lines, newest));
    expect(clicksOn(later.lines, isoDay(addDays(today, -9)))).toBe(10);
    await expect(
      fetchPage(
        simulatedFeed({ today, token: 'open', rowsOf }),
        { ...access, token: null },
        'https://f.example/',
        retrying,
      ),
    ).rejects.toThrow(/token/);
  });
});
