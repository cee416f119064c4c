import { randomUUID } from 'node:crypto';

/*
 * Files received before their route is called: the server stores them under a token, which it
 * passes to the route in a header that nobody outside can set.
 */

/** A figures file may have at most this many bytes. */
export const MAX_FILE_BYTES = 4 * 1024 ** 3;
export const TOO_LARGE = 'The file is larger than 4 GiB; divide it.';

/** A file that was received, not yet under the name of its import. */
export type ReceivedFile = { readonly file: string; readonly bytes: number };

export const RECEIVED_HEADER = 'x-tally-received';

// The server and the application are bundled apart and share nothing but this.
const shared = globalThis as { __tallyReceived?: Map<string, ReceivedFile> };

/** Puts a file down for a route; gives its token. */
export function keepForRoute(received: ReceivedFile): string {
  const token = randomUUID();
  (shared.__tallyReceived ??= new Map()).set(token, received);
  return token;
}

/** Takes back a file that no route has taken; null where one has. */
export function takeBack(token: string): ReceivedFile | null {
  const received = shared.__tallyReceived?.get(token) ?? null;
  shared.__tallyReceived?.delete(token);
  return received;
}

/** Takes the file that a request names, once; null where it names none. */
export function takeReceived(headers: Headers): ReceivedFile | null {
  const token = headers.get(RECEIVED_HEADER);
  return token === null ? null : takeBack(token);
}
