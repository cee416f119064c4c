import { DEFAULT_ADDRESS_RULES } from '../../core/model/addressRules';
import { newChangeSchema } from '../../core/model/change';
import type { Site } from '../../core/model/site';
import { stateOf } from '../../../tests/support/state';
import { HOME, TempStore } from '../../../tests/support/tempDb';
import { historyOf, restoreChange } from '../ledger/changeHistory';
import { addChange, editChange } from '../ledger/changes';
import { changesOnPages, findChange } from '../ledger/findChanges';
import { joinsView } from './joins';
import { listPages } from './pages';
import { pageDaysIn } from '../figures/days';
import { joinAddress, previewRules, rulesBefore, saveRules, undoRules } from './rekey';
import { findSite } from '../sites';

let store: TempStore;
let site: Site;
beforeEach(async () => {
  store = new TempStore();
  site = await store.site();
});
afterEach(() => store.close());

const now = () => findSite(store.db, site.id)!;
const addresses = () => listPages(store.db, site.id).map(({ address }) => address.replace(HOME, ''));
const WITHOUT_SLASH = { ...DEFAULT_ADDRESS_RULES, trailingSlash: 'without' } as const;

const CSV = [
  'date,page,clicks,impressions,position',
  '2026-01-01,/guides/,1,10,3',
  '2026-01-01,/guides,2,20,6',
  '2026-01-02,/guides?size=l,4,40,1',
  '2026-01-02,/shop/,8,80,2',
].join('\n');

test('a preview says what rules would join and part, and changes nothing', async () => {
  await store.import(site, CSV);
  const before = stateOf(store.db, site.id);
  expect(previewRules(store.db, site, WITHOUT_SLASH)).toEqual({
    ...{ pagesNow: 4, pagesThen: 3, parted: [] },
    joined: [{ page: `${HOME}/guides`, addresses: [`${HOME}/guides`, `${HOME}/guides/`] }],
  });
  expect(previewRules(store.db, site, { ...WITHOUT_SLASH, keptParameters: [] })).toMatchObject({
    pagesThen: 2,
    joined: [{ addresses: [`${HOME}/guides`, `${HOME}/guides/`, `${HOME}/guides?size=l`] }],
  });
  expect(previewRules(store.db, site, site.rules)).toMatchObject({ joined: [], parted: [] });
  expect(stateOf(store.db, site.id)).toEqual(before);
});

test('other rules give all figures other pages, and putting the rules back restores every one', async () => {
  await store.import(site, CSV);
  const before = stateOf(store.db, site.id);
  expect(rulesBefore(store.db, site.id)).toBeNull();
  expect(await undoRules(store.db, site)).toBe(false);
  await saveRules(store.db, site, WITHOUT_SLASH);
  expect(addresses()).toEqual(['/guides', '/guides?size=l', '/shop']);
  const guides = listPages(store.db, site.id)[0]!.id;
  const always = { firstDay: 0, lastDay: 99_999 } as never;
  expect(pageDaysIn(store.db, [guides], always)).toMatchObject([
    { clicks: 3, impressions: 30, positionSum: 150 },
  ]);
  expect(previewRules(store.db, now(), DEFAULT_ADDRESS_RULES)).toMatchObject({
    ...{ pagesNow: 3, pagesThen: 4 },
    parted: [{ page: `${HOME}/guides`, addresses: [`${HOME}/guides`, `${HOME}/guides/`] }],
  });
  // Files that come later follow the new rules.
  await store.import(now(), 'date,page,clicks,impressions\n2026-01-03,/shop,1,2');
  expect(addresses()).toHaveLength(3);
  expect(await undoRules(store.db, now())).toBe(true);
  expect(addresses()).toEqual(['/guides', '/guides/', '/guides?size=l', '/shop', '/shop/']);
  expect(stateOf(store.db, site.id).filter((line) => !line.includes('/shop'))).toEqual(
    before.filter((line) => !line.includes('/shop')),
  );
});

test('a change stays with its page through other rules and back', async () => {
  await store.import(site, CSV);
  const input = { title: 'T', kind: 'title-rewrite', day: '2026-01-05', pages: ['/guides/', '/guides'] };
  const { id } = await addChange(store.db, site, newChangeSchema.parse(input));
  const pages = () => findChange(store.db, id)!.pages.map(({ address }) => address.replace(HOME, ''));
  expect(pages()).toEqual(['/guides', '/guides/']);
  await saveRules(store.db, site, WITHOUT_SLASH);
  expect(pages()).toEqual(['/guides']);
  const joined = listPages(store.db, site.id).find(({ address }) => address === `${HOME}/guides`)!;
  expect(changesOnPages(store.db, [joined.id]).map((change) => change.id)).toEqual([id]);
  await undoRules(store.db, now());
  expect(pages()).toEqual(['/guides', '/guides/']);
  expect(addresses()).toEqual(['/guides', '/guides/', '/guides?size=l', '/shop/']);
});

test('a change that is edited between rules and back is on the pages that it was logged with', async () => {
  await store.import(site, CSV);
  const parts = [{ kind: 'title-rewrite', page: '/guides/', newText: 'New' }];
  const input = { title: 'T', kind: 'headings', day: '2026-01-05', pages: ['/guides/', '/guides'], parts };
  const { id } = await addChange(store.db, site, newChangeSchema.parse(input));
  const change = () => findChange(store.db, id)!;
  const pages = () => change().pages.map(({ address }) => address.replace(HOME, ''));
  const before = change();
  await saveRules(store.db, site, WITHOUT_SLASH);
  // As a form sends it: the one page that both are now, and another.
  await editChange(store.db, now(), id, { pages: ['/guides', '/shop'], note: 'edited' });
  expect(pages()).toEqual(['/guides', '/shop']);
  expect(change().parts[0]!.page!.address).toBe(`${HOME}/guides`);
  await editChange(store.db, now(), id, { parts: [{ ...parts[0]!, page: '/guides', oldText: null }] });
  await undoRules(store.db, now());
  expect(pages()).toEqual(['/guides', '/guides/', '/shop']);
  expect(change().parts[0]!.page!.address).toBe(`${HOME}/guides/`);
  await editChange(store.db, now(), id, { pages: ['/guides/', '/guides'], note: null });
  expect(change().pages.map(({ address }) => address)).toEqual(before.pages.map(({ address }) => address));
  expect(change().written).toEqual(before.written);
});

test('what the history of a change says holds under whatever rules', async () => {
  await store.import(site, CSV);
  const input = { title: 'T', kind: 'headings', day: '2026-01-05', pages: ['/guides/', '/guides'] };
  const { id } = await addChange(store.db, site, newChangeSchema.parse(input));
  const before = findChange(store.db, id)!;
  await saveRules(store.db, site, WITHOUT_SLASH);
  await editChange(store.db, now(), id, { pages: ['/shop'] });
  const [entry] = historyOf(store.db, id);
  expect((await restoreChange(store.db, now(), id, entry!.id)).pages).toHaveLength(1);
  await undoRules(store.db, now());
  expect(findChange(store.db, id)!.written).toEqual(before.written);
  expect(findChange(store.db, id)!.pages.map(({ address }) => address)).toEqual(
    before.pages.map(({ address }) => address),
  );
});

test('a change follows an address that is joined by hand, as its figures do, and parts from it again', async () => {
  await store.import(site, CSV);
  const input = { title: 'T', kind: 'headings', day: '2026-01-05', pages: ['/guides'] };
  const { id } = await addChange(store.db, site, newChangeSchema.parse(input));
  const pages = () => findChange(store.db, id)!.pages.map(({ address }) => address.replace(HOME, ''));
  const address = (store.rows('address') as { id: number; text: string }[]).find(
    ({ text }) => text === `${HOME}/guides`,
  )!;
  await joinAddress(store.db, now(), address.id, `${HOME}/shop/`);
  expect(pages()).toEqual(['/shop/']);
  await joinAddress(store.db, now(), address.id, null);
  expect(pages()).toEqual(['/guides']);
});

describe('joins between sources', () => {
  const VISITS = [
    'date,page,sessions,bounces,revenue',
    '2026-01-01,/guides/,10,1,"1.234,50"',
    '2026-01-01,/Shop/index.html,20,2,',
    '2026-01-01,/gudes?size=l,30,3,',
    '2026-01-01,/something/else/entirely,40,4,',
  ].join('\n');

  test('what matches is counted, what does not is listed with the nearest candidate', async () => {
    await store.import(site, CSV);
    expect(joinsView(store.db, site)).toMatchObject({ matched: 0, right: [] });
    await store.import(site, VISITS.replaceAll(',1,"1.234,50"', ',1,1234.5'));
    const view = joinsView(store.db, site);
    expect(view.matched).toBe(1);
    expect(
      view.right.map(({ address, nearest }) => [address, nearest].map((one) => one?.replace(HOME, ''))),
    ).toEqual([
      ['/Shop/index.html', '/shop/'],
      ['/gudes?size=l', '/guides/'],
      ['/something/else/entirely', undefined],
    ]);
    expect(view.left.map(({ address }) => address.replace(HOME, '')).sort()).toEqual([
      ...['/guides', '/guides?size=l', '/shop/'],
    ]);
  });

  test('an address is joined to a page by hand, and parted again', async () => {
    await store.import(site, CSV);
    await store.import(site, VISITS);
    const before = stateOf(store.db, site.id);
    const [shop] = joinsView(store.db, site).right;
    await joinAddress(store.db, site, shop!.addressId, shop!.nearest);
    const view = joinsView(store.db, site);
    expect(view.matched).toBe(2);
    expect(view.right.map(({ address }) => address)).not.toContain(shop!.address);
    expect(view.byHand).toEqual([
      { addressId: shop!.addressId, address: shop!.address, page: `${HOME}/shop/` },
    ]);
    // A join by hand follows the page through other rules.
    await saveRules(store.db, now(), WITHOUT_SLASH);
    expect(joinsView(store.db, now()).right.map(({ address }) => address)).not.toContain(shop!.address);
    await undoRules(store.db, now());
    await joinAddress(store.db, now(), shop!.addressId, null);
    expect(stateOf(store.db, site.id)).toEqual(before);
  });
});
