import { createOTP } from '@better-auth/utils/otp';
import { again, browser, carried, OWNER, RV } from '../../../tests/support/browser';
import { asked } from '../../../tests/support/nextHeaders';
import { TempStore } from '../../../tests/support/tempDb';
import { listAuditEntries } from '@/store/access/auditEntries';
import { endSessions, personByEmail, sessionsOf } from '@/store/access/people';
import { makeRecovery, openPass } from '@/store/access/passes';
import { endToken, findToken, listTokens, makeToken, newTokenSchema } from '@/store/access/tokens';
import { makeFirstAccount, makeOwner, recover } from './accounts';
import { askerFrom } from './asker';
import { authOf } from './auth';
import {
  beginSecondFactor,
  changePassword,
  confirmSecondFactor,
  endSecondFactor,
  signIn,
  signInByCode,
  signOut,
} from './signIn';
import { deviceOf } from './knownDevices';
import { InputError } from '@/store/inputError';
import { TooManyTries } from './slowing';
import { once } from './usedCodes';

const SESSION = 'tally.session_token';
/** What must go on while the clock is set. */
const TIMERS: FakeableAPI[] = [
  ...(['nextTick', 'setImmediate', 'queueMicrotask', 'setTimeout', 'clearTimeout'] as const),
];
type FakeableAPI = 'nextTick' | 'setImmediate' | 'queueMicrotask' | 'setTimeout' | 'clearTimeout';

let store: TempStore;
beforeEach(() => {
  store = new TempStore();
  process.env.TALLY_DATA_DIR = store.dir;
});
afterEach(() => {
  store.close();
  delete process.env.TALLY_DATA_DIR;
});

const askerAgain = () => askerFrom(store.db, again());

test('without accounts whoever is there may do everything; with the first one, only who signs in', async () => {
  const { db } = store;
  expect(await askerFrom(db, browser())).toEqual({ kind: 'alone' });
  await expect(makeFirstAccount(db, { ...OWNER, password: 'password1234' })).rejects.toThrow('tried first');
  await makeFirstAccount(db, OWNER);
  await expect(makeFirstAccount(db, { ...OWNER, email: 'two@quillow-bees.example' })).rejects.toThrow(
    'There is an account already',
  );
  expect(await askerFrom(db, browser())).toEqual({ kind: 'nobody' });
  await signIn(db, browser(), OWNER);
  expect(await askerAgain()).toMatchObject({ kind: 'person', name: 'MK', administrator: true });
  // What stands in the cookie is signed: another session's number does not open it.
  const cookie = asked.cookies.get(SESSION)!;
  asked.cookies.set(SESSION, `${cookie.slice(0, -6)}AAAAA=`);
  expect(await askerAgain()).toEqual({ kind: 'nobody' });
  asked.cookies.set(SESSION, cookie);
  await signOut(db, again());
  asked.cookies.set(SESSION, cookie);
  expect(await askerAgain()).toEqual({ kind: 'nobody' });
  expect(listAuditEntries(db, { siteId: null }, 9).items.map(({ actor, did }) => [actor, did])).toEqual([
    ['MK', 'signed in'],
  ]);
});

test('a wrong password and an address that nobody has are told apart by nothing, and slowed', async () => {
  const { db } = store;
  await makeFirstAccount(db, OWNER);
  const wrong = 'The address or the password is not right.';
  const headers = browser();
  await expect(signIn(db, headers, { ...OWNER, email: 'no@quillow-bees.example' })).rejects.toThrow(wrong);
  for (let i = 0; i < 5; i++)
    await expect(signIn(db, headers, { ...OWNER, password: `wrong ${i} wrong wrong` })).rejects.toThrow(
      wrong,
    );
  await expect(signIn(db, headers, OWNER)).rejects.toThrow(
    /Too many tries have failed. Try again in 1[45] minutes/,
  );
  // From elsewhere the owner comes in all the same.
  await signIn(db, browser(), OWNER);
  expect((await askerAgain()).kind).toBe('person');
});

test('a wrong password is said to be wrong, whichever bundle of the server was loaded first', async () => {
  const { db } = store;
  await makeFirstAccount(db, OWNER);
  await signIn(db, browser(), OWNER);
  await jest.isolateModulesAsync(async () => {
    const other = await import('./signIn');
    const headers = browser();
    const wrong = () => other.signIn(db, headers, { ...OWNER, password: 'wrong wrong wrong' });
    await expect(wrong()).rejects.toBeInstanceOf(InputError);
    for (let i = 0; i < 4; i++) await expect(wrong()).rejects.toThrow('is not right');
    await expect(wrong()).rejects.toBeInstanceOf(TooManyTries);
  });
});

test('a network of IPv6 is one place, and cannot lock out a browser that is known', async () => {
  const { db } = store;
  // Failures are remembered beyond a test, so this one has an account of its own.
  const LOCKED = { email: 'lr@quillow-bees.example', name: 'LR', password: 'a hive under the walnut' };
  await makeFirstAccount(db, LOCKED);
  await makeOwner(db, RV);
  const { device } = await signIn(db, browser(), LOCKED);
  const wrong = (from: string, email = LOCKED.email) => {
    asked.cookies.clear();
    return signIn(db, carried(from), { email, password: 'wrong wrong wrong' });
  };
  // Every address of one network counts as the same.
  for (let i = 0; i < 5; i++) await expect(wrong(`2001:db8:1:1::${i}`)).rejects.toThrow('is not right');
  await expect(wrong('2001:db8:1:1:ffff::9')).rejects.toBeInstanceOf(TooManyTries);
  // A hundred accounts cannot be tried from one network.
  const ends: unknown[] = [];
  for (let i = 0; i < 100; i++)
    ends.push(await wrong(`2001:db8:2:2::${i}`, `p${i}@quillow-bees.example`).catch((e: unknown) => e));
  expect(ends.filter((end) => end instanceof TooManyTries)).toHaveLength(60);
  // Tried from everywhere, the account is closed to strangers, and open to the browser that is
  // known.
  for (let i = 0; i < 50; i++) await wrong(`2001:db8:3:${i}::1`).catch(() => null);
  const strange = signIn(db, carried('2001:db8:4:4::1'), LOCKED);
  await expect(strange).rejects.toBeInstanceOf(TooManyTries);
  asked.cookies.set(device!.name, device!.value);
  expect(await signIn(db, carried('2001:db8:4:4::1'), LOCKED)).toMatchObject({ codeWanted: false });
  // It is known for this account alone, and does not make guessing free.
  asked.cookies.clear();
  asked.cookies.set(device!.name, device!.value);
  const headers = carried('2001:db8:5:5::1');
  expect(deviceOf(headers, LOCKED.email)).not.toBeNull();
  expect(deviceOf(headers, RV.email)).toBeNull();
  for (let i = 0; i < 5; i++)
    await expect(signIn(db, headers, { ...LOCKED, password: `wrong ${i} wrong` })).rejects.toThrow(
      'not right',
    );
  await expect(signIn(db, headers, LOCKED)).rejects.toBeInstanceOf(TooManyTries);
});

test('a new password ends all other sessions; a recovery ends every one', async () => {
  const { db } = store;
  await makeFirstAccount(db, OWNER);
  const { id } = personByEmail(db, OWNER.email)!;
  await signIn(db, browser(), OWNER);
  await signIn(db, browser(), OWNER);
  expect(sessionsOf(db, id)).toHaveLength(2);
  const password = 'smoke over the heather';
  await expect(
    changePassword(db, again(), { id, ...OWNER }, { current: 'something else it is', password }),
  ).rejects.toThrow('not your password');
  await changePassword(db, again(), { id, ...OWNER }, { current: OWNER.password, password });
  expect(sessionsOf(db, id)).toHaveLength(1);
  expect((await askerAgain()).kind).toBe('person');

  const { key } = await makeRecovery(db, OWNER.email);
  expect(openPass(db, key)).toMatchObject({ kind: 'recovery', email: OWNER.email });
  await recover(db, key, 'another one altogether');
  expect((await askerAgain()).kind).toBe('nobody');
  await expect(recover(db, key, 'another one altogether')).rejects.toThrow('does not open');
  await expect(signIn(db, browser(), { ...OWNER, password })).rejects.toThrow('not right');
  await signIn(db, browser(), { ...OWNER, password: 'another one altogether' });
  await endSessions(db, id, { except: null });
  expect((await askerAgain()).kind).toBe('nobody');
  // However often it is used, after thirty days the password is asked for again.
  await signIn(db, browser(), { ...OWNER, password: 'another one altogether' });
  db.$client.prepare('UPDATE session SET created_at = unixepoch() - 31 * 86400').run();
  expect((await askerAgain()).kind).toBe('nobody');
  expect(sessionsOf(db, id)).toEqual([]);
  // A session that nobody used for two weeks is over.
  await signIn(db, browser(), { ...OWNER, password: 'another one altogether' });
  db.$client.prepare('UPDATE session SET expires_at = unixepoch() - 1').run();
  expect((await askerAgain()).kind).toBe('nobody');
});

test('behind TLS the cookie is sent by it alone, and belongs to this host', async () => {
  const { db } = store;
  process.env.TALLY_URL = 'https://tally.quillow-bees.example';
  try {
    await makeFirstAccount(db, OWNER);
    const answer = await authOf(db).api.signInEmail({ body: OWNER, asResponse: true });
    expect(answer.headers.getSetCookie()[0]).toMatch(
      /^__Host-tally\.session_token=[^;]+; Max-Age=1209600; Path=\/; HttpOnly; Secure; SameSite=Lax$/,
    );
  } finally {
    delete process.env.TALLY_URL;
  }
});

test('a second factor is asked for once a first code was right; spare codes open once', async () => {
  const { db } = store;
  await makeFirstAccount(db, OWNER);
  await signIn(db, browser(), OWNER);
  const me = personByEmail(db, OWNER.email)!;
  await expect(beginSecondFactor(db, again(), OWNER, 'not the password')).rejects.toThrow(
    'not your password',
  );
  // Begun again before it is confirmed, the newer one counts.
  await beginSecondFactor(db, again(), OWNER, OWNER.password);
  const { address, spare } = await beginSecondFactor(db, again(), OWNER, OWNER.password);
  const shared = new URL(address);
  expect([shared.protocol, shared.host]).toEqual(['otpauth:', 'totp']);
  // Until the first code was right, nobody is locked out by a secret that was never kept.
  await signIn(db, browser(), OWNER);
  expect((await askerAgain()).kind).toBe('person');
  const secret = Buffer.from(base32(shared.searchParams.get('secret')!)).toString();
  const code = () => createOTP(secret, { period: 30, digits: 6 }).totp();
  await expect(confirmSecondFactor(db, again(), me, '000000')).rejects.toThrow('not right');
  const first = await code();
  await confirmSecondFactor(db, again(), me, first);
  // What confirmed it opens nothing any more, and there is no second one.
  await signIn(db, browser(), OWNER);
  await expect(signInByCode(db, again(), first)).rejects.toThrow('used already');
  jest.useFakeTimers({ now: Date.now() + 30_000, doNotFake: TIMERS });
  await signInByCode(db, again(), await code());
  await expect(beginSecondFactor(db, again(), OWNER, OWNER.password)).rejects.toThrow('is already on');
  jest.setSystemTime(Date.now() + 30_000);

  expect(await signIn(db, browser(), OWNER)).toEqual({ codeWanted: true, device: null });
  expect((await askerAgain()).kind).toBe('nobody');
  await expect(signInByCode(db, again(), '123456')).rejects.toThrow('not right');
  const opening = await code();
  await signInByCode(db, again(), opening);
  expect((await askerAgain()).kind).toBe('person');
  // Whoever saw it cannot use it again, though its half minute is not over.
  await signIn(db, browser(), OWNER);
  await expect(signInByCode(db, again(), opening)).rejects.toThrow('used already');
  expect((await askerAgain()).kind).toBe('nobody');

  expect(spare.length).toBeGreaterThan(4);
  await signIn(db, browser(), OWNER);
  await signInByCode(db, again(), spare[0]!);
  expect((await askerAgain()).kind).toBe('person');
  await signIn(db, browser(), OWNER);
  await expect(signInByCode(db, again(), spare[0]!)).rejects.toThrow('not right');
  await signInByCode(db, again(), spare[1]!);
  await endSecondFactor(db, again(), OWNER, OWNER.password);
  expect(await signIn(db, browser(), OWNER)).toMatchObject({ codeWanted: false });
  jest.useRealTimers();
});

test('a code that is tried twice at once opens once, and one that opened nothing may be tried again', async () => {
  const opens = () => Promise.resolve('in');
  expect(await Promise.all([once('mk', '271828', opens), once('mk', '271828', opens)])).toEqual(['in', null]);
  expect(await once('mk', '314159', () => Promise.resolve(null))).toBeNull();
  await expect(once('mk', '314159', () => Promise.reject(new Error('busy')))).rejects.toThrow('busy');
  expect(await once('mk', '314159', opens)).toBe('in');
  // Two people may have the same code by chance.
  expect(await once('rv', '314159', opens)).toBe('in');
});

/** RFC 4648, section 6. */
function base32(text: string): Uint8Array {
  const letters = 'ABCDEFGHIJKLMNOPQRSTUVWXYZ234567';
  let [bits, held] = [0, 0];
  const bytes: number[] = [];
  for (const letter of text.replace(/=+$/, '')) {
    held = (held << 5) | letters.indexOf(letter);
    bits += 5;
    if (bits < 8) continue;
    bits -= 8;
    bytes.push((held >> bits) & 255);
  }
  return new Uint8Array(bytes);
}

// RFC 6238, appendix B: the secret of 20 bytes, SHA-1, eight digits.
test.each([
  [59, '94287082'],
  [1111111109, '07081804'],
  [1111111111, '14050471'],
  [1234567890, '89005924'],
  [2000000000, '69279037'],
  [20000000000, '65353130'],
])('codes at %d s are those of RFC 6238', async (seconds, expected) => {
  jest.useFakeTimers({ now: seconds * 1000, doNotFake: TIMERS });
  try {
    expect(await createOTP('12345678901234567890', { digits: 8, period: 30 }).totp()).toBe(expected);
  } finally {
    jest.useRealTimers();
  }
});

test('tokens open their own site with their own right until they are ended', async () => {
  const { db } = store;
  const site = await store.site();
  await makeFirstAccount(db, OWNER);
  const token = (given: object) =>
    makeToken(db, site.id, newTokenSchema.parse({ name: 'release', ...given }));
  const bearer = (key: string) => askerFrom(db, new Headers({ authorization: `Bearer ${key}` }));
  const { id, key } = await token({ right: 'log' });
  expect(key).toMatch(/^tally_[\w-]{43}$/);
  expect(await bearer(key)).toEqual({ kind: 'token', id, name: 'release', siteId: site.id, right: 'log' });
  const [known] = listTokens(db, site.id);
  expect(JSON.stringify(known)).not.toContain(key.slice(12));
  expect(JSON.stringify(store.rows('access_token'))).not.toContain(key.slice(12));
  expect(known!.lastUsedAt).toMatch(/^20/);
  for (const wrong of ['', 'x', `${key}x`, key.slice(0, -1), `${key} `.repeat(9)])
    expect(await bearer(wrong)).toEqual({ kind: 'nobody' });
  // As calendar programs send it: the password of any name.
  const basic = (text: string) =>
    askerFrom(db, new Headers({ authorization: `Basic ${Buffer.from(text).toString('base64')}` }));
  expect(await basic(`calendar:${key}`)).toMatchObject({ kind: 'token', id });
  for (const wrong of [key.slice(0, -1), 'calendar:', `${key}:x`, ':::'])
    expect(await basic(wrong)).toEqual({ kind: 'nobody' });
  expect(await endToken(db, site.id + 1, id)).toBe(false);
  expect(await endToken(db, site.id, id)).toBe(true);
  expect(await bearer(key)).toEqual({ kind: 'nobody' });
  await expect(token({ right: 'all', lastDay: '2020-01-01' })).rejects.toThrow('That day has passed');
  const past = await token({ right: 'all' });
  db.$client.prepare('UPDATE access_token SET last_day = 18000 WHERE id = ?').run(past.id);
  expect(findToken(db, past.key)).toBeNull();
});
