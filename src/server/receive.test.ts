import fs, { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import http, { type IncomingMessage } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import { RECEIVED_HEADER, takeReceived } from '../store/received';
import { bringsFile, receiveFile } from './receive';

/** Has files written to a device on which there is no room. */
function fullDisk() {
  const real = fs.createWriteStream;
  return jest.spyOn(fs, 'createWriteStream').mockImplementation((file, options) => {
    writeFileSync(file, '');
    return real('/dev/full', options);
  });
}

let dir: string;
let server: http.Server;
let port: number;
/** What the route does with a request whose file was received. */
let route: (request: IncomingMessage) => string;
const before = process.env.TALLY_DATA_DIR;

beforeEach(async () => {
  dir = mkdtempSync(path.join(tmpdir(), 'tally-receive-'));
  process.env.TALLY_DATA_DIR = dir;
  server = http.createServer((request, response) => {
    void receiveFile(request, response).then((passed) => {
      if (passed) response.end(route(passed));
    });
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  port = (server.address() as AddressInfo).port;
});
afterEach(() => {
  jest.restoreAllMocks();
  server.close();
  process.env.TALLY_DATA_DIR = before;
  rmSync(dir, { recursive: true });
});

const left = () => readdirSync(path.join(dir, 'uploads'));
/** Waits until nothing lies there, for a while. */
async function cleared(): Promise<string[]> {
  for (let i = 0; i < 100 && left().length > 0; i++) await sleep(20);
  return left();
}
const send = (body: string) => fetch(`http://127.0.0.1:${port}/x`, { method: 'POST', body });

test.each<[string, string, string | undefined, boolean]>([
  ['POST', '/api/v1/sites/1/imports?fileName=a.csv', 'text/csv', true],
  ['POST', '/sites/12/intake/upload', undefined, true],
  ['POST', '/api/v1/sites/1/imports', 'multipart/form-data; boundary=x', false],
  ['GET', '/api/v1/sites/1/imports', undefined, false],
  ['POST', '/api/v1/sites/1/changes', 'application/json', false],
  ['POST', '/api/v1/sites/x/imports', 'text/csv', false],
])('%s %s of type %s brings a file: %s', (method, url, type, wanted) => {
  const headers = type === undefined ? {} : { 'content-type': type };
  expect(bringsFile({ method, url, headers } as IncomingMessage)).toBe(wanted);
});

test('a route finds the file under its token, once, and the request without a body', async () => {
  const text = 'date,page\n'.repeat(100_000);
  route = (request) => {
    const headers = new Headers({ [RECEIVED_HEADER]: String(request.headers[RECEIVED_HEADER]) });
    const received = takeReceived(headers)!;
    expect(takeReceived(headers)).toBeNull();
    expect(request.headers['content-length']).toBeUndefined();
    expect([received.bytes, readFileSync(received.file, 'utf8') === text]).toEqual([text.length, true]);
    return `${request.method} ${request.url}`;
  };
  expect(await (await send(text)).text()).toBe('POST /x');
  await sleep(50);
  // It belongs to the route now.
  expect(left()).toHaveLength(1);
});

test('where it cannot be put down, that is said, and nobody is left waiting', async () => {
  route = () => 'never';
  // As a full disk does, this fails when the file is written; it needs no disk to be full.
  writeFileSync(path.join(dir, 'uploads'), 'a file in the place of the folder');
  const answer = await send('date,page\n'.repeat(1000));
  expect([answer.status, (await answer.json()).detail]).toEqual([
    503,
    expect.stringMatching(/a file stands in its place/),
  ]);
});

test('a large file that finds no room is answered, while it is still being sent', async () => {
  route = () => 'never';
  // What is written to this device finds the disk full.
  const full = fullDisk();
  const sent = await send('date,page\n'.repeat(3_000_000));
  expect([sent.status, (await sent.json()).detail]).toEqual([
    503,
    expect.stringMatching(/there is no room left on the disk/),
  ]);
  expect(full).toHaveBeenCalled();
  expect(await cleared()).toEqual([]);
});

test('what a route refuses, and what breaks off on its way, does not stay on the disk', async () => {
  route = () => 'refused';
  expect(await (await send('too bad')).text()).toBe('refused');
  expect(await cleared()).toEqual([]);
  await new Promise<void>((resolve) => {
    const sending = http.request({ port, method: 'POST', headers: { 'Content-Length': '1000' } });
    sending.on('error', () => resolve());
    sending.write('half', () => setTimeout(() => sending.destroy(), 50));
    sending.on('close', () => resolve());
  });
  expect(await cleared()).toEqual([]);
  expect(takeReceived(new Headers({ [RECEIVED_HEADER]: 'guessed' }))).toBeNull();
});
