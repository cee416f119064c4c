import { createWriteStream } from 'node:fs';
import { mkdir, rm } from 'node:fs/promises';
import { IncomingMessage, type ServerResponse } from 'node:http';
import path from 'node:path';
import { Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { randomUUID } from 'node:crypto';
import { may, mayInGeneral, refusedBecause } from '../core/access/rights';
import { askerFrom } from '../services/access/asker';
import { SELF_HEADER } from '../store/access/self';
import { database } from '../store/database';
import { dataDir } from '../store/paths';
import { asRefusal, DatabaseRefused } from '../store/refused';
import { keepForRoute, MAX_FILE_BYTES, RECEIVED_HEADER, takeBack, TOO_LARGE } from '../store/received';

/*
 * Files of figures are taken from the connection straight to the disk, before the application sees the request: on its way
 * through the application's streams a large file takes several times as long. The route then finds the file under a token.
 */

const UPLOADS = [
  /^\/api\/v1\/sites\/import$/,
  /^\/api\/v1\/sites\/\d{1,15}\/imports$/,
  /^\/sites\/\d{1,15}\/intake\/upload$/,
];

function refuse(response: ServerResponse, status: number, title: string, detail: string): void {
  response.writeHead(status, { 'Content-Type': 'application/problem+json', Connection: 'close' });
  response.end(JSON.stringify({ type: 'about:blank', title, status, detail }));
}

/** Whether a request brings a file as its whole body. Forms are divided by the route itself. */
export function bringsFile({ method, url, headers }: IncomingMessage): boolean {
  if (method !== 'POST' || url === undefined) return false;
  const type = headers['content-type'] ?? '';
  return !/^multipart\//i.test(type) && UPLOADS.some((one) => one.test(url.split('?', 1)[0]!));
}

/** Whether whoever asks may bring a file, which is found out before it is taken to the disk. Who may not is answered here. */
export async function mayBring(request: IncomingMessage, response: ServerResponse): Promise<boolean> {
  const headers = new Headers();
  for (const name of ['authorization', 'cookie', SELF_HEADER])
    if (typeof request.headers[name] === 'string') headers.set(name, request.headers[name]);
  const asker = await askerFrom(database(), headers);
  const siteId = /\/sites\/(\d{1,15})\//.exec(request.url ?? '')?.[1];
  const mayDo = siteId === undefined ? mayInGeneral(asker, 'administer') : may(asker, 'log', Number(siteId));
  if (mayDo) return true;
  const nobody = asker.kind === 'nobody';
  if (nobody) response.setHeader('WWW-Authenticate', 'Bearer realm="Modest Tally"');
  const [status, title, detail] = nobody
    ? ([401, 'Unauthorized', 'Sign in, or send a token: Authorization: Bearer ….'] as const)
    : siteId !== undefined && !may(asker, 'read', Number(siteId))
      ? ([404, 'Not found', `There is no site ${siteId}.`] as const)
      : ([403, 'Forbidden', refusedBecause(asker, siteId === undefined ? 'administer' : 'log')] as const);
  refuse(response, status, title, detail);
  return false;
}

/** How long the rest of a refused upload is read after the answer. */
const PASSED_OVER_MS = 10_000;

/** Drains a refused upload for a while, since many clients read the answer only after sending. */
function passOver(request: IncomingMessage, response: ServerResponse): void {
  request.resume();
  response.once('finish', () => {
    const cut = setTimeout(() => request.destroy(), PASSED_OVER_MS);
    cut.unref();
    request.once('close', () => clearTimeout(cut));
  });
}

/**
 * Takes the body of a request to the disk and gives a request without body that names it. Null where the file was too large,
 * which is answered here, or broken off, of which nothing is kept.
 */
export async function receiveFile(
  request: IncomingMessage,
  response: ServerResponse,
): Promise<IncomingMessage | null> {
  const file = path.join(dataDir(), 'uploads', `${randomUUID()}.part`);
  let bytes = 0;
  let tooLarge = false;
  const bounded = new Transform({
    highWaterMark: 1024 * 1024,
    transform(piece: Buffer, _encoding, done) {
      bytes += piece.length;
      tooLarge = bytes > MAX_FILE_BYTES;
      done(tooLarge ? new Error(TOO_LARGE) : null, piece);
    },
  });
  try {
    await mkdir(path.dirname(file), { recursive: true });
    // Outside the pipeline, which would destroy the connection before the answer is sent.
    request.once('close', () => request.complete || bounded.destroy(new Error('The sender broke off.')));
    request.pipe(bounded);
    await pipeline(bounded, createWriteStream(file, { highWaterMark: 4 * 1024 * 1024 }));
  } catch (error) {
    request.unpipe(bounded);
    await rm(file, { force: true }).catch(() => {});
    if (!request.destroyed) passOver(request, response);
    const refusal = asRefusal(error, `The folder ${path.dirname(file)}`);
    if (tooLarge) refuse(response, 413, 'Content too large', TOO_LARGE);
    else if (refusal instanceof DatabaseRefused)
      refuse(response, 503, 'Service unavailable', refusal.message);
    // Whoever broke off is not there to be answered.
    else if (!request.destroyed) throw error;
    else response.destroy();
    return null;
  }
  const token = keepForRoute({ file, bytes });
  // A route that refuses the request leaves the file where it is.
  const drop = () => {
    const left = takeBack(token);
    if (left) void rm(left.file, { force: true });
  };
  response.once('finish', drop).once('close', drop);
  const passed = new IncomingMessage(request.socket);
  const { method, url, headers, httpVersion } = request;
  const rest = Object.entries(headers).filter(
    ([name]) => !['content-length', 'transfer-encoding'].includes(name),
  );
  Object.assign(passed, { method, url, httpVersion });
  passed.headers = { ...Object.fromEntries(rest), [RECEIVED_HEADER]: token };
  passed.push(null);
  return passed;
}
