import { AsyncLocalStorage } from 'node:async_hooks';
import { randomUUID } from 'node:crypto';
import type { IncomingMessage, ServerResponse } from 'node:http';
import { format } from 'node:util';
import pino, { type Logger } from 'pino';
import { DatabaseRefused } from '../store/refused';

/*
 * The log of the server: a line of JSON for each thing worth knowing, with its level and the request that it belongs to, or plain
 * sentences for whoever sits at a terminal. No line holds a name, an address of e-mail, where somebody asked from, what was typed,
 * or a key that opens something.
 */

export const LEVELS = ['debug', 'info', 'warn', 'error'] as const;
type Level = (typeof LEVELS)[number];

const requests = new AsyncLocalStorage<string>();

/** The level told by TALLY_LOG_LEVEL. Throws DatabaseRefused for what is none. */
export function levelTold(told = process.env.TALLY_LOG_LEVEL): Level {
  if (!told) return 'info';
  const level = LEVELS.find((one) => one === told);
  if (!level) throw new DatabaseRefused(`TALLY_LOG_LEVEL is one of ${LEVELS.join(', ')}, and is “${told}”.`);
  return level;
}

/** Whether lines are sentences instead of JSON: at a terminal, or where TALLY_LOG says “plain”. */
const isPlain = () =>
  process.env.TALLY_LOG ? process.env.TALLY_LOG === 'plain' : process.stdout.isTTY === true;

/** A line that a program wrote, with what an error says of itself apart. */
function lineOf(args: readonly unknown[]): [fields: object, message: string] {
  const error = args.find((one) => one instanceof Error);
  const rest = args.filter((one) => one !== error);
  if (!error) return [{}, format(...rest)];
  return [{ err: error }, rest.length > 0 ? format(...rest) : error.message];
}

let log: Logger | null = null;

/** Begins the log: from now on whatever the process writes to its console is a line of it. */
export function beginLog(): void {
  const level = levelTold();
  if (isPlain()) return;
  const logger = pino(
    {
      level,
      base: null,
      timestamp: pino.stdTimeFunctions.isoTime,
      formatters: { level: (label) => ({ level: label }) },
      mixin: () => ({ request: requests.getStore() }),
    },
    pino.destination({ dest: 1, sync: true }),
  );
  log = logger;
  const write =
    (to: Level) =>
    (...args: unknown[]) =>
      logger[to](...lineOf(args));
  Object.assign(console, {
    ...{ debug: write('debug'), log: write('info'), info: write('info') },
    ...{ warn: write('warn'), error: write('error') },
  });
}

/** Addresses without what opens something, and without what was typed into them. */
export const pathTold = (url: string) =>
  url
    .split('?', 1)[0]!
    .replace(/^(\/(?:shared|pass)\/).+/, '$1…')
    .slice(0, 300);

/** Runs the answer to a request under a number of its own, which is sent back and stands in every line about it. */
export function withRequest(request: IncomingMessage, response: ServerResponse, answer: () => void): void {
  const id = randomUUID();
  response.setHeader('X-Request-Id', id);
  const began = performance.now();
  const { method, url = '/' } = request;
  response.once('close', () => {
    const status = response.statusCode;
    const line = {
      request: id,
      method,
      path: pathTold(url),
      status,
      ms: Math.round(performance.now() - began),
    };
    const level = status >= 500 ? 'error' : url.startsWith('/_next/') ? 'debug' : 'info';
    log?.[level](line, response.writableFinished ? 'answered' : 'broken off');
  });
  requests.run(id, answer);
}
