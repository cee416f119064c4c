import { ACTIONS, load, ROUTES, SCREENS } from '../../tests/support/doorways';
import { oneOfEach } from '../../tests/support/accessFixture';
import { asked as asking } from '../../tests/support/nextHeaders';
import { TempStore } from '../../tests/support/tempDb';
import type { Site } from '@/core/model/site';
import { acceptInvitation, makeFirstAccount } from '@/services/access/accounts';
import { signIn } from '@/services/access/signIn';
import { share } from '@/services/access/shareLinks';
import { withdrawLink } from '@/store/access/links';
import { invite } from '@/store/access/passes';
import { endToken, makeToken, newTokenSchema } from '@/store/access/tokens';
import { addSite } from '@/store/sites';
import type { Action } from './action';
import type { Operation } from './api/v1/doorway';
import { EXPECTED_ACTIONS, EXPECTED_ROUTES, EXPECTED_SCREENS } from '../../tests/support/accessTable';

/*
 * Every route, action and screen is tried as everybody there can be. What each takes stands in a table that was written by hand; a
 * route, an action or a screen that is not in it fails the test, and so does a line of it that nothing stands behind any more.
 */

jest.mock('next/cache', () => ({ revalidatePath: () => {} }));
jest.mock('@/jobs/runner', () => {
  const nothing = async () => null;
  return new Proxy({}, { get: (_target, name) => (name === '__esModule' ? true : nothing) });
});
jest.mock('@/jobs/inWorker', () => {
  const nothing = async () => null;
  return new Proxy({}, { get: (_target, name) => (name === '__esModule' ? true : nothing) });
});
jest.mock('@/jobs/questions/ask', () => ({
  ask: async (name: string) => (name === 'plainDrops' ? [] : null),
  askReadings: async function* () {},
  underWay: () => [],
  isBehind: () => false,
}));

const PASSWORD = 'quiet smoker on the hill';
const store = new TempStore();
const shared = globalThis as { __tallyDb?: unknown };
let own: Site;
let ids: Record<string, number>;
/** What each of those who ask sends along. */
const sends: Record<string, { cookie?: string; authorization?: string }> = {};
let keys: { withdrawn: string; past: string; open: string };

beforeAll(async () => {
  process.env.TALLY_DATA_DIR = store.dir;
  const { db } = store;
  shared.__tallyDb = db;
  own = await store.site();
  const other = await addSite(db, { name: 'Other', address: 'other.quillow-bees.example' });
  ids = await oneOfEach(db, own);
  const admin = { email: 'administrator@quillow-bees.example', name: 'MK', password: PASSWORD };
  await makeFirstAccount(db, admin);
  const people = [
    ['reader', own.id, 'reader'],
    ['editor', own.id, 'editor'],
    ['owner', own.id, 'owner'],
    ['stranger', other.id, 'owner'],
  ] as const;
  for (const [name, siteId, role] of people) {
    const { key } = await invite(db, { email: `${name}@quillow-bees.example`, siteId, role });
    await acceptInvitation(db, key, { name, password: PASSWORD });
  }
  for (const name of ['administrator', ...people.map(([one]) => one)]) {
    asking.cookies.clear();
    const headers = new Headers({ 'x-tally-remote': `203.0.113.${name.length}` });
    await signIn(db, headers, { email: `${name}@quillow-bees.example`, password: PASSWORD });
    sends[name] = {
      cookie: [...asking.cookies].map(([key, value]) => `${key}=${encodeURIComponent(value)}`).join('; '),
    };
  }
  const token = (siteId: number, given: object) =>
    makeToken(db, siteId, newTokenSchema.parse({ name: 'script', ...given }));
  for (const right of ['read', 'log', 'all'] as const)
    sends[`token ${right}`] = { authorization: `Bearer ${(await token(own.id, { right })).key}` };
  sends['token of the other site'] = {
    authorization: `Bearer ${(await token(other.id, { right: 'all' })).key}`,
  };
  const ended = await token(own.id, { right: 'all' });
  await endToken(db, own.id, ended.id);
  sends['ended token'] = { authorization: `Bearer ${ended.key}` };
  const expired = await token(own.id, { right: 'all' });
  db.$client.prepare('UPDATE access_token SET last_day = 18000 WHERE id = ?').run(expired.id);
  sends['expired token'] = { authorization: `Bearer ${expired.key}` };
  sends['ended session'] = { cookie: sends.owner!.cookie! };
  // A second session of the owner stands for the one that is used; the first has ended.
  asking.cookies.clear();
  await signIn(db, new Headers({ 'x-tally-remote': '203.0.113.99' }), {
    ...{ email: 'owner@quillow-bees.example', password: PASSWORD },
  });
  sends.owner = {
    cookie: [...asking.cookies].map(([key, value]) => `${key}=${encodeURIComponent(value)}`).join('; '),
  };
  db.$client
    .prepare(
      `DELETE FROM session WHERE rowid = (SELECT min(s.rowid) FROM session s JOIN user u ON u.id = s.user_id
       WHERE u.email = 'owner@quillow-bees.example')`,
    )
    .run();
  const link = (lastDay: string) =>
    share(db, own.id, { of: 'report', id: ids.report! }, { lastDay, password: '' });
  const soon = new Date(Date.now() + 5 * 86_400_000).toISOString().slice(0, 10);
  const withdrawn = await link(soon);
  await withdrawLink(db, own.id, withdrawn.id);
  const past = await link(soon);
  db.$client.prepare('UPDATE shared_link SET last_day = 1 WHERE id = ?').run(past.id);
  keys = { withdrawn: withdrawn.key, past: past.key, open: (await link(soon)).key };
  // A link opens what it shows, and is no token and no session.
  sends['withdrawn link'] = { authorization: `Bearer ${withdrawn.key}` };
  sends['open link'] = { authorization: `Bearer ${keys.open}`, cookie: `tally.session_token=${keys.open}` };
  sends.nobody = {};
});
afterAll(() => {
  store.close();
  delete shared.__tallyDb;
  delete process.env.TALLY_DATA_DIR;
});

/** What each right is given to. Whoever is not named is nobody to the site, or may not. */
const GIVEN: Record<string, readonly string[]> = {
  read: ['reader', 'editor', 'owner', 'administrator', 'token read', 'token log', 'token all'],
  log: ['editor', 'owner', 'administrator', 'token log', 'token all'],
  edit: ['editor', 'owner', 'administrator', 'token all'],
  own: ['owner', 'administrator', 'token all'],
};
const UNKNOWN = [
  ...['nobody', 'ended token', 'expired token', 'ended session', 'withdrawn link', 'open link'],
];
const STRANGERS = ['stranger', 'token of the other site'];
const EVERYBODY = [...GIVEN.read!, ...STRANGERS, ...UNKNOWN];

/** What is answered to whoever asks for what takes a right: let in, or the status of the refusal. */
function expectedFor(who: string, right: string): 'in' | 401 | 403 | 404 {
  if (right === 'anybody') return 'in';
  if (UNKNOWN.includes(who)) return 401;
  if (right === 'known') return 'in';
  if (right === 'administer') return who === 'administrator' ? 'in' : 403;
  if (STRANGERS.includes(who)) return 404;
  return GIVEN[right]!.includes(who) ? 'in' : 403;
}

const everything = () =>
  store.db.$client
    .prepare<[], { name: string }>(
      "SELECT name FROM sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite_%'",
    )
    .all()
    // When a token was last used, and until when a session is good, is remembered of whoever asks.
    .filter(({ name }) => !['access_token', 'session', 'shared_link'].includes(name))
    .map(({ name }) => JSON.stringify(store.rows(name)))
    .join('\n');

const requestOf = (who: string, method: string) =>
  new Request('http://127.0.0.1/x', {
    method,
    headers: {
      'Content-Type': 'application/json',
      // Whoever is let in began from another version: nothing is done for them either.
      'If-Match': '"another version"',
      ...sends[who],
    },
    ...(method === 'GET' ? {} : { body: '{"nonesuch": 1}' }),
  });
const parameters = () => ({
  ...Object.fromEntries(Object.entries(ids).map(([name, id]) => [`${name}Id`, String(id)])),
  ...{ subject: 'pages', key: keys.withdrawn },
});

test('the table holds every route, action and screen, and none besides', () => {
  expect(Object.keys(EXPECTED_ROUTES).sort()).toEqual(ROUTES.map(([name]) => name).sort());
  expect(Object.keys(EXPECTED_ACTIONS).sort()).toEqual(ACTIONS.map(([name]) => name).sort());
  expect(Object.keys(EXPECTED_SCREENS).sort()).toEqual(SCREENS.map(([name]) => name).sort());
});

/** What is sent to be looked at, and changes nothing. */
const CHANGES_NOTHING = ['POST sites/[siteId]/wording/read'];

test('whatever changes something says what was done, for the list of who did what', () => {
  for (const [name, , { wish }] of ROUTES)
    if (!name.startsWith('GET') && !['read', 'anybody'].includes(wish.may) && !CHANGES_NOTHING.includes(name))
      expect([name, typeof wish.auditAction]).toEqual([name, 'string']);
});

describe.each(ROUTES)('%s', (name, method, operation) => {
  test('comes by the doorway, and lets in whom it should', async () => {
    const right = EXPECTED_ROUTES[name]!;
    expect(operation.wish?.may).toBe(right);
    const before = everything();
    for (const who of EVERYBODY) {
      const answer = await operation(requestOf(who, method), { params: Promise.resolve(parameters()) });
      const expected = expectedFor(who, right);
      if (expected === 'in') expect([who, [401, 403].includes(answer.status)]).toEqual([who, false]);
      else {
        expect([who, answer.status]).toEqual([who, expected]);
        expect(answer.headers.get('content-type')).toBe('application/problem+json');
        expect(answer.headers.has('www-authenticate')).toBe(expected === 401);
      }
    }
    expect(everything()).toBe(before);
  });
});

describe.each(ACTIONS)('%s', (name, action) => {
  test('comes by the doorway, and lets in whom it should', async () => {
    const right = EXPECTED_ACTIONS[name]!;
    const { on, may, args } = action.described;
    expect(may).toBe(right);
    const named = on === 'nothing' ? [] : on === 'site' ? [ids.site] : [ids.site, ids[on]];
    // One argument too many is seen once somebody is let in, before anything is done.
    const given = [...named, ...args.map(() => null), 'one more'];
    const before = everything();
    for (const who of EVERYBODY) {
      asking.headers = new Headers(sends[who]);
      const result = await (
        action as unknown as (...a: unknown[]) => Promise<{ ok: boolean; errors?: { message: string }[] }>
      )(...given);
      const said = result.errors?.[0]?.message ?? '';
      const expected = expectedFor(who, right);
      const meant = {
        in: /^There is more than was asked for/,
        401: /^Sign in, or send a token/,
        403: /may (read|do|log)|Only an owner/,
        404: /^There is no such/,
      }[expected];
      expect([who, result.ok, said]).toEqual([who, false, expect.stringMatching(meant)]);
    }
    expect(everything()).toBe(before);
  });
});

describe.each(SCREENS)('%s', (name, file) => {
  test('lets in whom it should', async () => {
    const right = EXPECTED_SCREENS[name]!;
    const draw = load(file).default as (props: object) => Promise<unknown>;
    for (const who of EVERYBODY) {
      asking.headers = new Headers(sends[who]);
      const end = await Promise.resolve()
        .then(() =>
          draw({ params: Promise.resolve(parameters()), searchParams: Promise.resolve({}), children: null }),
        )
        .then(() => 'drawn', endOf);
      const expected = expectedFor(who, right);
      if (expected === 'in')
        expect([who, end]).not.toEqual([who, expect.stringMatching(/sign-in|not-yours/)]);
      else if (expected === 401) expect([who, end]).toEqual([who, expect.stringMatching(/^to \/sign-in/)]);
      else if (right === 'administer')
        expect([who, end]).toEqual([who, expect.stringMatching(/^to \/(account)?$/)]);
      else if (expected === 404) expect([who, end]).toEqual([who, 'not found']);
      else expect([who, end]).toEqual([who, `to /sites/${own.id}/not-yours?right=${right}`]);
    }
  });
});

/** How a screen ended that was not drawn: where it sends, that it is not there, or that it went on to what a test has nothing of. */
function endOf(error: unknown): string {
  const digest = String((error as { digest?: unknown }).digest ?? '');
  if (digest.startsWith('NEXT_REDIRECT')) return `to ${digest.split(';')[2]}`;
  if (digest.includes('404')) return 'not found';
  return 'went on';
}

test('what a link shows is shown to whoever has it, as long as it opens, and to nobody else', async () => {
  const { GET } = load('src/app/shared/[key]/route.ts') as { GET: Operation };
  const get = (key: string) => GET(new Request('http://127.0.0.1/x'), { params: Promise.resolve({ key }) });
  const gone = await (await get('x'.repeat(43))).text();
  for (const key of [keys.withdrawn, keys.past, keys.open.slice(0, -1), '', '../../x', 'x'.repeat(5000)]) {
    const answer = await get(key);
    expect([answer.status, await answer.text()]).toEqual([404, gone]);
  }
  const answer = await get(keys.open);
  expect(answer.status).toBe(200);
  expect(answer.headers.get('x-robots-tag')).toContain('noindex');
  expect(answer.headers.get('cache-control')).toContain('no-store');
});

test('hosts of the server’s own network are allowed by who owns the installation, and by no owner of a site', async () => {
  const { POST } = load('src/app/api/v1/sites/[siteId]/feeds/operations.ts') as { POST: Operation };
  const feed = {
    name: 'Own',
    address: 'http://10.0.0.7/figures',
    token: '',
    daily: false,
    allowPrivate: true,
  };
  const set = (who: string) =>
    POST(
      new Request('http://127.0.0.1/x', {
        ...{ method: 'POST', body: JSON.stringify(feed) },
        headers: { 'Content-Type': 'application/json', ...sends[who] },
      }),
      { params: Promise.resolve(parameters()) },
    );
  for (const who of ['owner', 'token all']) {
    const answer = await set(who);
    expect([answer.status, await answer.json()]).toEqual([
      403,
      expect.objectContaining({ errors: [expect.objectContaining({ field: 'allowPrivate' })] }),
    ]);
  }
  const { saveSettings } = load('src/app/sites/[siteId]/settings/actions.ts') as {
    saveSettings: Action<unknown[], unknown>;
  };
  const allow = (who: string, privateHosts: string[]) => {
    asking.headers = new Headers(sends[who]);
    return saveSettings(own.id, { privateHosts }, { privateHosts: [] });
  };
  expect(await allow('owner', ['10.0.0.7'])).toMatchObject({
    ok: false,
    errors: [{ field: 'privateHosts' }],
  });
  expect(await allow('owner', [])).toMatchObject({ ok: true });
  expect((await set('administrator')).status).toBe(201);
});
