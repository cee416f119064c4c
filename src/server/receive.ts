import { createWriteStream } from 'node:fs';
import { mkdir, rm } from 'node:fs/promises';
import { IncomingMessage, type ServerResponse } from 'node:http';
import path from 'node:path';
import { Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { randomUUID } from 'node:crypto';
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
    await pipeline(request, bounded, createWriteStream(file, { highWaterMark: 4 * 1024 * 1024 }));
  } catch (error) {
    await rm(file, { force: true }).catch(() => {});
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
