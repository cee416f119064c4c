import { randomUUID } from 'node:crypto';
import type { IncomingMessage, ServerResponse } from 'node:http';
import { ACTION_HEADER } from '../store/access/toldHeaders';
import { takeAction } from '../store/beganActions';

/**
 * Answers a request for an action with 400 instead of 500 where its arguments could not be decoded,
 * so that no action began. Other requests are left alone.
 */
export function answerUndecodable(request: IncomingMessage, response: ServerResponse): void {
  delete request.headers[ACTION_HEADER];
  if (request.method !== 'POST' || request.headers['next-action'] === undefined) return;
  const id = randomUUID();
  request.headers[ACTION_HEADER] = id;
  const writeHead = response.writeHead.bind(response) as (
    status: number,
    ...rest: unknown[]
  ) => ServerResponse;
  response.writeHead = ((status: number, ...rest: unknown[]) =>
    writeHead(!takeAction(id) && status === 500 ? 400 : status, ...rest)) as ServerResponse['writeHead'];
  response.once('close', () => takeAction(id));
}
