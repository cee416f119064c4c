import { randomBytes } from 'node:crypto';
import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import { setTimeout as sleep } from 'node:timers/promises';
import next from 'next';
import { parseIsoDay } from '../core/calendar/day';
import { checkpointsElsewhere } from '../jobs/checkpoints/begin';
import { endThreads } from '../jobs/thread';
import { bringForward, closeDatabase, connect, database, disconnect } from '../store/database';
import { anyAccount } from '../store/access/people';
import { publicAddress } from '../store/access/publicAddress';
import { PATH_HEADER, REMOTE_HEADER } from '../store/access/toldHeaders';
import { SELF_HEADER, selfKey } from '../store/access/self';
import { deriveAnewIfOutdated } from '../store/figures/derived';
import { checkDatabaseFile, takeFolder, type TakenFolder } from '../store/folder';
import { dailyBackups, retentionTold } from '../store/dailyBackups';
import { databaseFile, dataDir } from '../store/paths';
import { asRefusal, DatabaseRefused } from '../store/refused';
import { replicaTold } from '../store/replica';
import { RECEIVED_HEADER } from '../store/received';
import { beginLog, withRequest } from './log';
import { beginReplica, endReplica, fetchFromReplica } from './replica';
import { isLoopback, isReadable, METHODS, openToOthers, ownHosts, ownTarget, refusal } from './guard';
import { contentSecurityPolicy, DOCUMENT_HEADERS, SECURITY_HEADERS, STRICT_TRANSPORT } from './headers';
import { FORWARDED, remoteAddress, trustedProxies } from './proxies';
import { portFrom } from './port';
import { bringsFile, mayBring, receiveFile } from './receive';
import { answerUndecodable } from './undecodable';

const development = process.argv.includes('--dev');
const port = portFrom(process.env.PORT) ?? refusePort();
const hostname = process.env.TALLY_BIND || '127.0.0.1';

/** The day can be set for trying things out; a slip in it would quietly count as none. */
function refuseWrongToday(): void {
  const told = process.env.TALLY_TODAY;
  if (told && parseIsoDay(told) === null)
    throw new DatabaseRefused(`TALLY_TODAY must be a day written YYYY-MM-DD, and is “${told}”.`);
}

function refusePort(): never {
  process.stderr.write(`PORT must be a whole number from 1 to 65535, and is “${process.env.PORT}”.\n`);
  process.exit(1);
}

async function prepareDatabase(): Promise<void> {
  checkDatabaseFile(databaseFile());
  try {
    const db = connect(databaseFile());
    try {
      bringForward(db);
      await deriveAnewIfOutdated(db, () =>
        console.log('Deriving anew from the figures what this version of the program keeps otherwise …'),
      );
    } finally {
      disconnect(db);
    }
  } catch (error) {
    throw asRefusal(error, `The database ${databaseFile()}`);
  }
}

/** The same refusal, with the newest backup that could be put back, where there is one. */
function withBackup(error: unknown): unknown {
  const [newest] = dailyBackups();
  return error instanceof DatabaseRefused && error.message.includes('npm run restore') && newest
    ? new DatabaseRefused(`${error.message} The newest backup is ${newest.file}.`)
    : error;
}

/** How long answers that are being given may take when the program is told to end. */
const LAST_ANSWERS_MS = 5000;
/** How often connections are closed whose answer is over. Node.js closes only those idle at the start. */
const CLOSE_IDLE_MS = 20;

/**
 * Ends in order: what is being answered is finished, threads stop, and the database is left whole in its one file. Told again
 * while it does, as when a terminal tells a parent and its child, it goes on ending.
 */
function endOn(server: Server, folder: TakenFolder): void {
  let ending = false;
  const end = async () => {
    if (ending) return;
    ending = true;
    const answered = new Promise((resolve) => server.close(resolve));
    const closing = setInterval(() => server.closeIdleConnections(), CLOSE_IDLE_MS);
    await Promise.race([answered, sleep(LAST_ANSWERS_MS)]);
    clearInterval(closing);
    server.closeAllConnections();
    await endThreads();
    closeDatabase();
    await endReplica();
    folder.release();
    process.exit(0);
  };
  const endSafely = () =>
    void end().catch((error: unknown) => {
      console.error(error);
      process.exit(1);
    });
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const) process.on(signal, endSafely);
  // Started by another process, the server does not outlive it.
  process.on('disconnect', endSafely);
}

const REFUSALS = { 400: 'Bad request', 403: 'Forbidden', 405: 'Method not allowed' } as const;

function refuse(response: ServerResponse, status: keyof typeof REFUSALS, detail: string): void {
  const headers = status === 405 ? { Allow: METHODS.join(', ') } : {};
  response.writeHead(status, {
    'Content-Type': 'application/problem+json',
    Connection: 'close',
    ...headers,
  });
  response.end(JSON.stringify({ type: 'about:blank', title: REFUSALS[status], status, detail }));
}

/** What was told of how others reach the server. Throws DatabaseRefused. */
function reachedBy() {
  const url = publicAddress();
  const proxies = trustedProxies(process.env.TALLY_TRUSTED_PROXIES);
  if (proxies.length > 0 && !url)
    throw new DatabaseRefused(
      'TALLY_TRUSTED_PROXIES is set, and TALLY_URL is not: name the address by which people reach the proxy.',
    );
  return { url, proxies, own: ownHosts(port, process.env.TALLY_ALLOWED_HOSTS, url) };
}
type Reached = ReturnType<typeof reachedBy>;

/** Takes away what others say by headers of the proxy and of this server, and says itself who asks, and for what. */
function toldByServer(request: IncomingMessage, { proxies }: Reached): void {
  const { headers, socket, url } = request;
  const remote = remoteAddress(
    socket.remoteAddress,
    headers['x-forwarded-for'] as string | undefined,
    proxies,
  );
  for (const name of [...FORWARDED, RECEIVED_HEADER]) delete headers[name];
  headers[REMOTE_HEADER] = remote;
  headers[PATH_HEADER] = url;
}

function guarded(
  reached: Reached,
  handle: (request: IncomingMessage, response: ServerResponse) => Promise<void>,
) {
  return (request: IncomingMessage, response: ServerResponse): void =>
    withRequest(request, response, () => {
      const always = { ...SECURITY_HEADERS, ...(reached.url?.protocol === 'https:' && STRICT_TRANSPORT) };
      for (const [name, value] of Object.entries(always)) response.setHeader(name, value);
      const why = refusal({ host: request.headers.host, origin: request.headers.origin }, reached.own);
      if (why) {
        refuse(response, 403, why);
        return;
      }
      if (!METHODS.includes(request.method ?? '')) {
        refuse(response, 405, `Nothing here answers to ${request.method}.`);
        return;
      }
      const path = ownTarget(request.url ?? '', reached.own);
      if (path === null) {
        refuse(response, 400, 'The request is for another host.');
        return;
      }
      request.url = path;
      if (!isReadable(request.url)) {
        refuse(response, 400, 'The percent-encoding of the address cannot be read.');
        return;
      }
      const policy = contentSecurityPolicy(randomBytes(16).toString('base64'), development);
      // The application takes the nonce for its own scripts from the policy in the request.
      request.headers['content-security-policy'] = policy;
      response.setHeader('Content-Security-Policy', policy);
      if (request.url?.startsWith('/shared/'))
        for (const [name, value] of Object.entries(DOCUMENT_HEADERS)) response.setHeader(name, value);
      toldByServer(request, reached);
      answerUndecodable(request, response);
      const answer = async () => {
        const brings = bringsFile(request);
        if (brings && !(await mayBring(request, response))) return;
        const passed = brings ? await receiveFile(request, response) : request;
        if (passed) await handle(passed, response);
      };
      answer().catch((error: unknown) => {
        console.error(error);
        if (!response.headersSent) response.writeHead(500);
        response.end();
      });
    });
}

/**
 * The first answer of each kind loads parts of the application; better now than under somebody's hands. The second
 * address names a reading that cannot exist, so that its screen is loaded also where there is no site yet.
 */
async function warmUp(): Promise<void> {
  for (const path of ['/', '/sites/0/ledger/0']) {
    await fetch(`${home()}${path}`, asSelf())
      .then((answer) => answer.text())
      .catch(() => null);
  }
}

// By a name that it answers to: on another address than loopback it may listen there alone.
const home = () =>
  `http://${isLoopback(hostname) || hostname === '0.0.0.0' || hostname === '::' ? '127.0.0.1' : shownHost()}:${port}`;
const shownHost = () => (hostname.includes(':') ? `[${hostname}]` : hostname);
const asSelf = () => ({ headers: { [SELF_HEADER]: selfKey() } });

/** Has the figures of the first site read into memory, so that nobody waits for it with the first reading. */
async function readAhead(): Promise<void> {
  const asked = (path: string) => fetch(`${home()}${path}`, asSelf());
  const sites = (await asked('/api/v1/sites').then((answer) => answer.json())) as { id: number }[];
  const [first] = sites;
  if (!first) return;
  const { items } = (await asked(`/api/v1/sites/${first.id}/readings`).then((answer) => answer.json())) as {
    items: { changeId: number }[];
  };
  const [newest] = items;
  if (newest) await asked(`/sites/${first.id}/ledger/${newest.changeId}`);
  // Lists and openings take longest the first time; they let others go first.
  for (const screen of ['pages', 'openings'])
    await asked(`/sites/${first.id}/${screen}`).then((answer) => answer.text());
}

/** Refuses to answer others as long as nobody has an account. Throws DatabaseRefused. */
function refuseOpen(): void {
  const { TALLY_URL: url, TALLY_TRUSTED_PROXIES: proxies, TALLY_ALLOWED_HOSTS: hosts } = process.env;
  const why = openToOthers({ hostname, url, proxies, hosts });
  if (why && !anyAccount(database())) throw new DatabaseRefused(why);
}

/**
 * A connection is kept open for longer than a proxy or a script keeps one idle (a minute with nginx): closed by this side just as the
 * next request comes, it would be a fault for whoever asks.
 */
const KEPT_OPEN_MS = 65_000;

async function main(): Promise<void> {
  beginLog();
  refuseWrongToday();
  replicaTold();
  retentionTold();
  const reached = reachedBy();
  const folder = takeFolder(dataDir(), `serving on port ${port}`);
  if (await fetchFromReplica()) console.log('The database was fetched from its replica.');
  await prepareDatabase().catch((error: unknown) => {
    throw withBackup(error);
  });
  refuseOpen();
  await beginReplica();
  checkpointsElsewhere(database());
  const app = next({ dev: development, hostname, port });
  await app.prepare();
  const handle = app.getRequestHandler();
  const server = createServer(guarded(reached, (request, response) => handle(request, response)));
  server.keepAliveTimeout = KEPT_OPEN_MS;
  server.on('error', (error: NodeJS.ErrnoException) => {
    console.error(
      error.code === 'EADDRINUSE'
        ? `Port ${port} is in use already. Stop the other program, or choose another port: PORT=3001 npm start`
        : error.message,
    );
    process.exit(1);
  });
  server.listen(port, hostname, () => {
    void warmUp().finally(() => {
      console.log(`Modest Tally answers on ${reached.url?.origin ?? `http://${shownHost()}:${port}`}`);
      // In the background: it takes seconds where there are millions of rows, and nothing depends on it.
      readAhead().catch(() => null);
    });
  });
  endOn(server, folder);
}

main().catch((error: unknown) => {
  // Whoever starts it reads why it does not, as a sentence.
  if (error instanceof DatabaseRefused) process.stderr.write(`${error.message}\n`);
  else console.error(error);
  process.exit(1);
});
