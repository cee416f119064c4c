import { randomUUID } from 'node:crypto';
import type { IncomingMessage, ServerResponse } from 'node:http';
import { ACTION_HEADER } from '../store/access/toldHeaders';
import { takeStartedAction } from '../store/startedActions';

/**
 * Turns 500 into 400 for an action request whose arguments could not be decoded, so that its action
 * never started. Leaves other requests alone.
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
    writeHead(
      !takeStartedAction(id) && status === 500 ? 400 : status,
      ...rest,
    )) as ServerResponse['writeHead'];
  response.once('close', () => takeStartedAction(id));
}
