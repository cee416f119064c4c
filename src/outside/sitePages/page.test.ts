import { readFileSync } from 'node:fs';
import { createServer, type RequestListener, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import path from 'node:path';
import { brotliCompressSync, gzipSync } from 'node:zlib';
import { readPage } from '../../core/markup/page';
import { AddressRefused } from '../http/address';
import { AskFailed, get } from '../http/get';
import { fetchSitePage, NoPage } from './page';
import { RobotsRefuse } from './robots';
import { simulatedSite } from './simulated';

let servers: Server[] = [];
afterEach(() => {
  for (const server of servers) {
    server.closeAllConnections();
    server.close();
  }
  servers = [];
});

/** Serves pages beside a robots.txt, and gives its address. */
async function serve(handle: RequestListener, robots: string | number = 404): Promise<string> {
  const server = createServer((request, response) => {
    if (request.url !== '/robots.txt') handle(request, response);
    else if (typeof robots === 'string') response.end(robots);
    else response.writeHead(robots).end();
  });
  servers.push(server);
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  return `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
}

const LIMITS = { maxBytes: 100_000, idleMs: 400, totalMs: 900, maxRedirects: 5 };
const fetchFrom = (home: string, at = '/') => fetchSitePage(get, home + at, [new URL(home).host], LIMITS);
const html = { 'content-type': 'text/html' };
const savedBytes = (name: string) => readFileSync(path.join('tests', 'pages', name));

describe('a page', () => {
  test('is fetched as it is served, with its status and after its redirects', async () => {
    const seen: (string | undefined)[] = [];
    const home = await serve((request, response) => {
      seen.push(request.headers['user-agent']);
      if (request.url === '/old/') response.writeHead(301, { location: '/gone/' }).end();
      else response.writeHead(410, { ...html, 'x-robots-tag': 'noindex' }).end('<title>Gone</title>');
    });
    const page = await fetchFrom(home, '/old/');
    expect(page).toMatchObject({ status: 410, finalAddress: `${home}/gone/`, html: '<title>Gone</title>' });
    expect(page.header('x-robots-tag')).toBe('noindex');
    expect(seen).toEqual(['ModestTally/1', 'ModestTally/1']);
  });

  test.each([
    ['windows-1252.html', 'text/html', 'Honig – 3,50 € für „heute“', 0],
    ['utf-16.html', 'text/html; charset=iso-8859-1', 'Wabe – 蜂', 0],
    // What the header says goes before what the page says, also where that is wrong.
    ['windows-1252.html', 'text/html; charset=utf-8', 'Honig � 3,50 � f�r �heute�', 6],
  ])('%s as %s is read as a browser reads it', async (name, type, title, misfits) => {
    const home = await serve((_request, response) =>
      response.writeHead(200, { 'content-type': type }).end(savedBytes(name)),
    );
    expect(await readPage(await fetchFrom(home))).toMatchObject({ title, misfits });
  });

  test.each([
    ['gzip', gzipSync],
    ['br', brotliCompressSync],
  ])('is unpacked from %s, and no further than the limit', async (encoding, pack) => {
    const packed = {
      '/': pack(Buffer.from('<h1>Packed</h1>')),
      '/large': pack(Buffer.alloc(2_000_000, 'x')),
    };
    const home = await serve((request, response) =>
      response
        .writeHead(200, { ...html, 'content-encoding': encoding })
        .end(packed[request.url as keyof typeof packed]),
    );
    expect((await fetchFrom(home)).html).toBe('<h1>Packed</h1>');
    await expect(fetchFrom(home, '/large')).rejects.toThrow(/more than 100000 bytes/);
  });
});

describe('hostile answers', () => {
  test('endless, slow, of 50 MB, silent or broken off: each is an error in good time', async () => {
    const home = await serve((request, response) => {
      response.writeHead(200, html);
      if (request.url === '/endless') {
        const more = () => void (response.destroyed || response.write('<p>more '.repeat(1000), more));
        more();
      } else if (request.url === '/slow') {
        const drip = setInterval(() => response.write('x'), 50);
        response.on('close', () => clearInterval(drip));
      } else if (request.url === '/large') response.end(Buffer.alloc(50_000_000, 'x'));
      else if (request.url === '/silent') response.write('<h1>');
      else response.write('<h1>', () => response.destroy());
    });
    const begun = Date.now();
    for (const [at, why] of [
      ['/endless', /more than 100000 bytes/],
      ['/slow', /took longer than 0.9 seconds/],
      ['/large', /more than 100000 bytes/],
      ['/silent', /stopped in the middle/],
      ['/broken', /broke off/],
    ] as const) {
      const asking = fetchFrom(home, at);
      await expect(asking).rejects.toThrow(why);
      await expect(asking).rejects.toBeInstanceOf(AskFailed);
    }
    expect(Date.now() - begun).toBeLessThan(10_000);
  });

  test('redirects in circles end', async () => {
    const home = await serve((request, response) =>
      response.writeHead(302, { location: request.url === '/a' ? '/b' : '/a' }).end(),
    );
    await expect(fetchFrom(home, '/a')).rejects.toThrow(/redirects more than 5 times/);
  });

  test('a redirect to this machine leads nowhere, unless its owner allows that host', async () => {
    let asked = 0;
    const inside = await serve((_request, response) => {
      asked++;
      response.writeHead(200, html).end('<h1>Secret</h1>');
    });
    const home = await serve((_request, response) => response.writeHead(302, { location: inside }).end());
    await expect(fetchFrom(home)).rejects.toBeInstanceOf(AddressRefused);
    expect(asked).toBe(0);
    const hosts = [home, inside].map((address) => new URL(address).host);
    expect((await fetchSitePage(get, home, hosts, LIMITS)).html).toBe('<h1>Secret</h1>');
  });

  test('what is no page, or packed in an unknown or a wrong way, is said', async () => {
    const home = await serve((request, response) => {
      if (request.url === '/pdf') response.writeHead(200, { 'content-type': 'application/pdf' }).end('x');
      else {
        const packed = { ...html, 'content-encoding': request.url === '/odd' ? 'odd' : 'gzip' };
        response.writeHead(200, packed).end('not packed');
      }
    });
    await expect(fetchFrom(home, '/pdf')).rejects.toThrow(/application\/pdf, which is no page/);
    await expect(fetchFrom(home, '/odd')).rejects.toBeInstanceOf(NoPage);
    await expect(fetchFrom(home, '/bad')).rejects.toThrow(/packed the page badly/);
  });
});

describe('robots.txt', () => {
  const page: RequestListener = (request, response) => {
    if (request.url === '/hop') response.writeHead(302, { location: '/private/' }).end();
    else response.writeHead(200, html).end('<h1>x</h1>');
  };
  const allows = async (home: string, at: string) =>
    fetchFrom(home, at).then(
      () => true,
      (error) => {
        if (error instanceof RobotsRefuse) return false;
        throw error;
      },
    );

  // RFC 9309, 5.1 (simple example, with this program's name for one of its robots) and 5.2 (the longest match counts).
  test('is respected as RFC 9309 has it', async () => {
    const first = await serve(
      page,
      'User-Agent: *\nDisallow: *.gif$\nDisallow: /example/\nAllow: /publications/\n\nUser-Agent: modesttally\nDisallow:/private/\nAllow:/example/page.html\nDisallow:/example/page2\n',
    );
    expect(await allows(first, '/example/page.html')).toBe(true);
    expect(await allows(first, '/example/page2.html')).toBe(false);
    expect(await allows(first, '/example/other')).toBe(true);
    expect(await allows(first, '/picture.gif')).toBe(true);
    expect(await allows(first, '/private/')).toBe(false);
    expect(await allows(first, '/hop')).toBe(false);
    const second = await serve(
      page,
      'User-Agent: *\nAllow: /example/page/\nDisallow: /example/page/disallowed.gif\nDisallow: /end$\n',
    );
    expect(await allows(second, '/example/page/disallowed.gif')).toBe(false);
    expect(await allows(second, '/example/page/other.gif')).toBe(true);
    expect(await allows(second, '/end')).toBe(false);
    expect(await allows(second, '/ending')).toBe(true);
  });

  // RFC 9309, 2.3.1.3 and 2.3.1.4.
  test('absent it allows everything, out of order nothing', async () => {
    expect(await allows(await serve(page, 404), '/a')).toBe(true);
    expect(await allows(await serve(page, 403), '/a')).toBe(true);
    expect(await allows(await serve(page, 503), '/a')).toBe(false);
  });
});

test('the simulated site is read as a real one', async () => {
  const site = simulatedSite((at) =>
    at === '/guides/fuel/'
      ? {
          title: 'Fuel & smoke',
          description: 'What "burns" slowly.',
          heading: 'Fuel <dry>',
          sections: [{ heading: 'Needles', text: 'They burn slowly.' }],
          types: ['Article'],
          links: ['/shop/'],
        }
      : null,
  );
  const home = 'https://www.quillow-bees.example';
  const page = await readPage(await fetchSitePage(site, `${home}/guides/fuel/`, []));
  expect(page).toMatchObject({
    status: 200,
    title: 'Fuel & smoke',
    description: 'What "burns" slowly.',
    canonical: `${home}/guides/fuel/`,
    headings: [
      { level: 1, text: 'Fuel <dry>' },
      { level: 2, text: 'Needles' },
    ],
    structuredData: [{ types: ['Article'], problem: null }],
    links: [`${home}/`, `${home}/shop/`],
  });
  expect((await fetchSitePage(site, `${home}/none/`, [])).status).toBe(404);
  await expect(fetchSitePage(site, `${home}/basket/`, [])).rejects.toBeInstanceOf(RobotsRefuse);
});
