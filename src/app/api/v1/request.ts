import { parseJson } from '@/core/parseJson';
import { Readable } from 'node:stream';
import type { ReadableStream as NodeStream } from 'node:stream/web';
import { Problem } from '@/app/problem';

const MAX_JSON_BYTES = 2 * 1024 * 1024;

/** The JSON body of a request, not yet validated. Throws Problem where it is none or too large. */
export async function readJson(request: Request): Promise<unknown> {
  const reader = request.body?.getReader();
  const pieces: Uint8Array[] = [];
  let bytes = 0;
  for (let piece = await reader?.read(); piece && !piece.done; piece = await reader?.read()) {
    bytes += piece.value.length;
    if (bytes > MAX_JSON_BYTES) throw new Problem(413, 'The body is larger than 2 MiB.');
    pieces.push(piece.value);
  }
  try {
    return parseJson(Buffer.concat(pieces).toString('utf8'));
  } catch (error) {
    throw new Problem(400, `The body cannot be read as JSON: ${(error as Error).message}`);
  }
}

/** The body of a request as the streams of Node.js have it. */
export function asNode(body: ReadableStream<Uint8Array>): Readable {
  return Readable.fromWeb(body as NodeStream<Uint8Array>);
}

/** The number in a path; -1, which nothing has, where it is none. */
export function asId(text: string): number {
  return /^\d{1,15}$/.test(text) ? Number(text) : -1;
}
