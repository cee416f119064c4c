import { again, browser, OWNER, RV } from '../../../tests/support/browser';
import { TempStore } from '../../../tests/support/tempDb';
import {
  findPerson,
  personByEmail,
  removePerson,
  rolesOf,
  setAdministrator,
  setRole,
} from '@/store/access/people';
import { invite, makeRecovery, openPass, openPasses, withdrawPass } from '@/store/access/passes';
import { makeToken, newTokenSchema } from '@/store/access/tokens';
import { withAuditContext } from '@/store/acting';
import { InputError } from '@/store/inputError';
import { acceptInvitation, joinWith, makeFirstAccount, makeOwner, recover, rename } from './accounts';
import { askerFrom } from './asker';
import { changePassword, signIn } from './signIn';

/* Who has an account, by which link, and under which name. */

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

/** Runs work as somebody who is signed in does it. */
const as = <T>(email: string, work: () => Promise<T>): Promise<T> => {
  const person = personByEmail(store.db, email)!;
  const asker = { kind: 'person' as const, ...person, sessionId: '', roles: rolesOf(store.db, person.id) };
  return withAuditContext({ asker, auditAction: null, siteId: null, thing: null }, work);
};

test('invitations make accounts with a role, once, as long as they are good', async () => {
  const { db } = store;
  const site = await store.site();
  await makeFirstAccount(db, OWNER);
  const editor = { name: 'TO', password: 'three frames of brood' };
  const { key } = await invite(db, { email: 'TO@quillow-bees.example', siteId: site.id, role: 'editor' });
  await expect(acceptInvitation(db, key, { ...editor, password: 'short' })).rejects.toThrow('at least 12');
  expect(await acceptInvitation(db, key, editor)).toEqual({ email: 'to@quillow-bees.example' });
  await expect(acceptInvitation(db, key, editor)).rejects.toThrow('does not open anything any more');
  await signIn(db, browser(), { email: 'to@quillow-bees.example', password: editor.password });
  const asker = await askerAgain();
  expect(asker).toMatchObject({ kind: 'person', administrator: false });
  expect(rolesOf(db, personByEmail(db, 'to@quillow-bees.example')!.id)).toEqual(
    new Map([[site.id, 'editor']]),
  );

  const late = await invite(db, { email: 'late@quillow-bees.example', siteId: site.id, role: 'reader' });
  expect(await withdrawPass(db, site.id + 1, late.id)).toBe(false);
  expect(await withdrawPass(db, site.id, late.id)).toBe(true);
  expect(openPass(db, late.key)).toBeNull();
  const old = await invite(db, { email: 'old@quillow-bees.example', siteId: site.id, role: 'reader' });
  db.$client.prepare("UPDATE pass SET expires_at = '2020-01-01T00:00:00Z' WHERE id = ?").run(old.id);
  expect(openPass(db, old.key)).toBeNull();

  // Who has an account joins with it, and with no other's invitation.
  const more = await invite(db, { email: 'to@quillow-bees.example', siteId: site.id, role: 'owner' });
  const to = personByEmail(db, 'to@quillow-bees.example')!;
  await expect(joinWith(db, more.key, findPerson(db, personByEmail(db, OWNER.email)!.id)!)).rejects.toThrow(
    'is for to@quillow-bees.example',
  );
  await joinWith(db, more.key, to);
  expect(rolesOf(db, to.id).get(site.id)).toBe('owner');
  const less = await invite(db, { email: 'to@quillow-bees.example', siteId: site.id, role: 'reader' });
  await joinWith(db, less.key, to);
  expect(rolesOf(db, to.id).get(site.id)).toBe('owner');
});

test('a link opens only as long as whoever made it might make it', async () => {
  const { db } = store;
  const site = await store.site();
  await makeFirstAccount(db, OWNER);
  await makeOwner(db, RV);
  const rv = personByEmail(db, RV.email)!;
  const links = () =>
    as(RV.email, async () => [
      await invite(db, { email: 'a@quillow-bees.example', siteId: null, role: null }),
      await invite(db, { email: 'b@quillow-bees.example', siteId: site.id, role: 'editor' }),
      await makeRecovery(db, OWNER.email),
    ]);
  const opening = (made: { key: string }[]) => made.map(({ key }) => openPass(db, key) !== null);
  const made = await links();
  expect(opening(made)).toEqual([true, true, true]);
  await setAdministrator(db, rv.id, false);
  expect(opening(made)).toEqual([false, false, false]);
  await setRole(db, site.id, rv.id, 'owner');
  expect(opening(made)).toEqual([false, true, false]);
  await setAdministrator(db, rv.id, true);
  expect(openPasses(db, 'recovery', null)).toHaveLength(1);
  await removePerson(db, rv.id);
  expect(opening(made)).toEqual([false, false, false]);
  // Links of a version that kept only the name of the maker.
  db.$client.exec('UPDATE pass SET maker_id = NULL');
  expect(opening(made)).toEqual([false, false, false]);
  expect(openPasses(db, 'recovery', null)).toEqual([]);
});

test('of several links for a new password only the last opens, once, and none after another password', async () => {
  const { db } = store;
  await makeFirstAccount(db, OWNER);
  const { id } = personByEmail(db, OWNER.email)!;
  const [first, second] = [await makeRecovery(db, OWNER.email), await makeRecovery(db, OWNER.email)];
  expect(openPass(db, first.key)).toBeNull();
  expect(openPasses(db, 'recovery', null).map((one) => one.id)).toEqual([second.id]);
  await signIn(db, browser(), OWNER);
  const password = 'smoke over the heather';
  await changePassword(db, again(), { id, ...OWNER }, { current: OWNER.password, password });
  expect(openPass(db, second.key)).toBeNull();
  const third = await makeRecovery(db, OWNER.email);
  expect(await withdrawPass(db, null, third.id)).toBe(true);
  await expect(recover(db, third.key, 'another one altogether')).rejects.toThrow('does not open');
});

test('nobody takes the name of another, of a token, or of somebody who was here', async () => {
  const { db } = store;
  const site = await store.site();
  await makeFirstAccount(db, OWNER);
  await makeOwner(db, RV);
  const rv = personByEmail(db, RV.email)!;
  await makeToken(db, site.id, newTokenSchema.parse({ name: 'release', right: 'log' }));
  for (const name of ['MK', 'mk', ' M\u200bK ', 'ＭＫ', 'release', 'token “release”', 'Token 7'])
    await expect(rename(db, rv.id, name)).rejects.toBeInstanceOf(InputError);
  await rename(db, rv.id, 'rv');
  await as(OWNER.email, () => signIn(db, browser(), OWNER));
  await removePerson(db, personByEmail(db, OWNER.email)!.id);
  await expect(rename(db, rv.id, 'MK')).rejects.toThrow('is already taken');
  await expect(makeOwner(db, { ...OWNER, email: 'new@quillow-bees.example' })).rejects.toThrow(
    'already taken',
  );
});

test('the installation always has an owner', async () => {
  const { db } = store;
  await makeFirstAccount(db, OWNER);
  const { id } = personByEmail(db, OWNER.email)!;
  await expect(setAdministrator(db, id, false)).rejects.toThrow('Somebody has to own');
  await expect(removePerson(db, id)).rejects.toThrow('Somebody has to own');
  await makeOwner(db, { ...OWNER, email: 'rv@quillow-bees.example', name: 'RV' });
  await removePerson(db, id);
  expect(findPerson(db, id)).toBeNull();
});
