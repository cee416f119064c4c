import { isoDay, addDays } from '@/core/calendar/day';
import { newLinkSchema } from '@/core/access/readOnlyLink';
import { newChangeSchema } from '@/core/model/change';
import { listLinks, rememberOpening, withdrawLink } from '@/store/access/links';
import { today } from '@/store/clock';
import { addChange, setChangeDeleted } from '@/store/ledger/changes';
import { TempStore } from '../../../tests/support/tempDb';
import { isLinkPassword, isProof, openLink, proofFor, share } from './shareLinks';
import { slowed, TooManyTries } from './slowing';

let store: TempStore;
let siteId: number;
let change: number;
beforeEach(async () => {
  store = new TempStore();
  process.env.TALLY_DATA_DIR = store.dir;
  const site = await store.site();
  siteId = site.id;
  const given = { title: 'T', kind: 'other', day: '2026-09-14', pages: ['/a'] };
  change = (await addChange(store.db, site, newChangeSchema.parse(given))).id;
});
afterEach(() => {
  store.close();
  delete process.env.TALLY_DATA_DIR;
});

const inDays = (days: number) => isoDay(addDays(today(), days));
const make = (given: object = {}) =>
  share(
    store.db,
    siteId,
    { of: 'reading', id: change },
    newLinkSchema.parse({ lastDay: inDays(3), ...given }),
  );

test('a link opens its one thing until its day, until it is withdrawn, and while the thing is there', async () => {
  const { id, key } = await make();
  expect(openLink(store.db, key)).toMatchObject({ id, of: 'reading', thingId: change, title: 'T' });
  expect(JSON.stringify(store.rows('shared_link'))).not.toContain(key);
  for (const wrong of ['', `${key}x`, key.slice(1), 'x'.repeat(43), "' OR 1=1 --"])
    expect(openLink(store.db, wrong)).toBeNull();
  rememberOpening(store.db, id);
  expect(listLinks(store.db, siteId)).toMatchObject([{ opened: 1, asksPassword: false }]);
  await setChangeDeleted(store.db, change, true);
  expect(openLink(store.db, key)).toBeNull();
  await setChangeDeleted(store.db, change, false);
  expect(openLink(store.db, key)).not.toBeNull();
  expect(await withdrawLink(store.db, siteId + 1, id)).toBe(false);
  expect(await withdrawLink(store.db, siteId, id)).toBe(true);
  expect(openLink(store.db, key)).toBeNull();
  const past = await make({ lastDay: inDays(0) });
  store.db.$client.prepare('UPDATE shared_link SET last_day = ? WHERE id = ?').run(today() - 1, past.id);
  expect(openLink(store.db, past.key)).toBeNull();
});

test('days that are past or too far, things of another site, and short passwords are refused', async () => {
  await expect(make({ lastDay: inDays(-1) })).rejects.toThrow('That day is past.');
  await expect(make({ lastDay: inDays(400) })).rejects.toThrow('At most a year from now.');
  const given = newLinkSchema.parse({ lastDay: inDays(3) });
  for (const kind of ['report', 'round'] as const)
    await expect(share(store.db, siteId, { of: kind, id: change }, given)).rejects.toThrow(`no such ${kind}`);
  await expect(share(store.db, siteId + 1, { of: 'reading', id: change }, given)).rejects.toThrow('no such');
  expect(newLinkSchema.safeParse({ lastDay: inDays(3), password: 'short' }).success).toBe(false);
});

test('a password is asked for, slowed, and what proves it is good for this link alone', async () => {
  const link = openLink(store.db, (await make({ password: 'heather2026' })).key)!;
  const other = openLink(store.db, (await make({ password: 'heather2026' })).key)!;
  expect(await isLinkPassword(link, 'heather2026', '203.0.113.1')).toBe(true);
  expect(await isLinkPassword(link, 'Heather2026', '203.0.113.1')).toBe(false);
  expect([isProof(link, proofFor(link)), isProof(other, proofFor(link)), isProof(link, '')]).toEqual([
    true,
    false,
    false,
  ]);
  for (let i = 0; i < 4; i++) await isLinkPassword(link, `wrong ${i}`, '203.0.113.1');
  await expect(isLinkPassword(link, 'heather2026', '203.0.113.1')).rejects.toBeInstanceOf(TooManyTries);
  expect(await isLinkPassword(other, 'heather2026', '203.0.113.1')).toBe(true);
});

test('many tries at once are counted before the first of them is answered', async () => {
  let let_in = 0;
  const tries = Array.from({ length: 30 }, () =>
    slowed({ who: 'somebody', from: '203.0.113.77' }, async () => {
      let_in++;
      return null;
    }).catch((error: unknown) => error),
  );
  const ends = await Promise.all(tries);
  expect(let_in).toBe(5);
  expect(ends.filter((end) => end instanceof TooManyTries)).toHaveLength(25);
});
