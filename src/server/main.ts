import { randomBytes } from 'node:crypto';
import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import next from 'next';
import { bringForward, connect, databaseFile, DatabaseRefused } from '../store/database';
import { deriveAnewIfOutdated } from '../store/figures/derived';
import { RECEIVED_HEADER } from '../store/received';
import { ownHosts, refusal } from './guard';
import { contentSecurityPolicy, SECURITY_HEADERS } from './headers';
import { portFrom } from './port';
import { bringsFile, receiveFile } from './receive';

const development = process.argv.includes('--dev');
const port = portFrom(process.env.PORT) ?? refusePort();
// Loopback only, unless told otherwise: there are no user accounts yet.
const hostname = process.env.TALLY_BIND || '127.0.0.1';
const own = ownHosts(port, process.env.TALLY_ALLOWED_HOSTS);

function refusePort(): never {
  console.error(`PORT must be a whole number from 1 to 65535, and is “${process.env.PORT}”.`);
  process.exit(1);
}

async function prepareDatabase(): Promise<void> {
  const db = connect(databaseFile());
  try {
    bringForward(db);
    await deriveAnewIfOutdated(db, () =>
      console.log('Deriving anew from the figures what this version of the program keeps otherwise …'),
    );
  } finally {
    db.$client.close();
  }
}

function refuse(response: ServerResponse, detail: string): void {
  response.writeHead(403, { 'Content-Type': 'application/problem+json', Connection: 'close' });
  response.end(JSON.stringify({ type: 'about:blank', title: 'Forbidden', status: 403, detail }));
}

function guarded(handle: (request: IncomingMessage, response: ServerResponse) => Promise<void>) {
  return (request: IncomingMessage, response: ServerResponse): void => {
    for (const [name, value] of Object.entries(SECURITY_HEADERS)) response.setHeader(name, value);
    const why = refusal({ host: request.headers.host, origin: request.headers.origin }, own);
    if (why) {
      refuse(response, why);
      return;
    }
    const policy = contentSecurityPolicy(randomBytes(16).toString('base64'), development);
    // The application takes the nonce for its own scripts from the policy in the request.
    request.headers['content-security-policy'] = policy;
    response.setHeader('Content-Security-Policy', policy);
    delete request.headers[RECEIVED_HEADER];
    const answer = async () => {
      const passed = bringsFile(request) ? await receiveFile(request, response) : request;
      if (passed) await handle(passed, response);
    };
    answer().catch((error: unknown) => {
      console.error(error);
      if (!response.headersSent) response.writeHead(500);
      response.end();
    });
  };
}

/**
 * The first answer of each kind loads parts of the application; better now than under somebody's hands. The second
 * address names a reading that cannot exist, so that its screen is loaded also where there is no site yet.
 */
async function warmUp(): Promise<void> {
  for (const path of ['/', '/sites/0/ledger/0']) {
    await fetch(`http://127.0.0.1:${port}${path}`)
      .then((answer) => answer.text())
      .catch(() => null);
  }
}

/** Has the figures of the first site read into memory, so that nobody waits for it with the first reading. */
async function readAhead(): Promise<void> {
  const home = `http://127.0.0.1:${port}/api/v1/sites`;
  const sites = (await fetch(home).then((answer) => answer.json())) as { id: number }[];
  const [first] = sites;
  if (!first) return;
  const { items } = (await fetch(`${home}/${first.id}/readings`).then((answer) => answer.json())) as {
    items: { changeId: number }[];
  };
  const [newest] = items;
  if (newest) await fetch(`http://127.0.0.1:${port}/sites/${first.id}/ledger/${newest.changeId}`);
}

async function main(): Promise<void> {
  await prepareDatabase();
  const app = next({ dev: development, hostname, port });
  await app.prepare();
  const handle = app.getRequestHandler();
  const server = createServer(guarded((request, response) => handle(request, response)));
  server.on('error', (error: NodeJS.ErrnoException) => {
    console.error(
      error.code === 'EADDRINUSE'
        ? `Port ${port} is in use already. Stop the other program, or choose another port: PORT=3001 npm start`
        : error.message,
    );
    process.exit(1);
  });
  server.listen(port, hostname, () => {
    const shown = hostname.includes(':') ? `[${hostname}]` : hostname;
    void warmUp().finally(() => {
      console.log(`Modest Tally answers on http://${shown}:${port}`);
      // In the background: it takes seconds where there are millions of rows, and nothing depends on it.
      readAhead().catch(() => null);
    });
  });
  for (const signal of ['SIGINT', 'SIGTERM'] as const) {
    process.once(signal, () => {
      server.closeAllConnections();
      server.close(() => process.exit(0));
    });
  }
}

main().catch((error: unknown) => {
  console.error(error instanceof DatabaseRefused ? error.message : error);
  process.exit(1);
});
