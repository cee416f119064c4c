import { addDays, isoDay } from '../../core/calendar/day';
import { newChangeSchema } from '../../core/model/change';
import { movesOf } from '../../core/model/movedAddress';
import { plainSentence, readingSentence } from '../../core/reading/readingSentence';
import { day, HOME, TempStore } from '../../../tests/support/tempDb';
import { joinAddress } from '../../store/addresses/rekey';
import { addChange } from '../../store/ledger/changes';
import { findChange } from '../../store/ledger/findChanges';
import { Engines } from '../site/engines';
import { movedPages } from './movedPages';
import { readChange } from '../reading/readChange';
import { SiteContext } from '../site/siteContext';

const FIRST = day('2026-01-01');
const MOVED = 60;

test('a page that moved is read across the redirect once its addresses are joined, and it is said which carried what', async () => {
  const store = new TempStore();
  const site = await store.site();
  const lines = ['date,page,clicks,impressions,position'];
  for (let i = 0; i < 120; i++) {
    const path = i < MOVED + 2 ? '/old-guide/' : '/new-guide/';
    lines.push(`${isoDay(addDays(FIRST, i))},${path},10,100,4`);
  }
  await store.import(site, lines.join('\n'));
  const input = {
    ...{ title: 'Moved', kind: 'address-or-redirect', day: isoDay(addDays(FIRST, MOVED)) },
    ...{ pages: ['/new-guide/'], oldText: '/old-guide/', newText: `${HOME}/new-guide/` },
  };
  const change = await addChange(store.db, site, newChangeSchema.parse(input));
  const context = () => new SiteContext(store.db, site);
  const read = () => readChange(context(), new Engines(store.db), findChange(store.db, change.id)!);

  // Apart, the new page has nothing before.
  expect(read().metrics.clicks).toMatchObject({ before: 0, after: 280 });
  const [moved] = movedPages(context(), change);
  expect(moved).toMatchObject({ from: `${HOME}/old-guide/`, to: `${HOME}/new-guide/`, joined: false });
  expect(moved!.addressIds).toHaveLength(1);
  for (const id of moved!.addressIds) await joinAddress(store.db, site, id, moved!.to);

  expect(movedPages(context(), change)).toMatchObject([{ joined: true, addressIds: [] }]);
  const reading = read();
  expect(reading.metrics.clicks).toMatchObject({ before: 280, after: 280 });
  expect(reading.carriers.map(({ address, lastDay }) => [address, lastDay - FIRST])).toEqual([
    [`${HOME}/old-guide/`, MOVED + 1],
    [`${HOME}/new-guide/`, MOVED + 30],
  ]);
  expect(plainSentence(readingSentence(reading))).toContain(
    'Until 3 March 2026 /old-guide/ carried the figures, from 4 March 2026 on /new-guide/.',
  );
  store.close();
});

test('texts that are no addresses, or of another kind of change, move nothing', () => {
  const change = { kind: 'address-or-redirect', oldText: '/a/', newText: 'now at b', parts: [] };
  expect(movesOf(change)).toEqual([]);
  expect(movesOf({ ...change, newText: '/b/', kind: 'title-rewrite' })).toEqual([]);
  const part = { kind: 'address-or-redirect', page: null, oldText: '/c/', newText: 'https://x.example/d/' };
  expect(movesOf({ ...change, parts: [part] })).toEqual([{ from: '/c/', to: 'https://x.example/d/' }]);
});
