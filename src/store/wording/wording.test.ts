import { TempStore } from '../../../tests/support/tempDb';
import { newResultPageSchema } from '../../core/wording/resultPage';
import { addSite } from '../sites';
import { addDraft, draftsOf, saveDraft, setDraftDeleted } from './drafts';
import { leftOutTerms, setLeftOut } from './leftOut';
import {
  findResultPage,
  keepResultPage,
  lookedUpQueries,
  resultPagesOf,
  setResultPageDeleted,
} from './resultPages';
import { keepRival, rivalsOf } from './rivals';
import { pagesForAddresses } from '../addresses/pages';
import { write } from '../write';

let store: TempStore;
beforeEach(() => {
  store = new TempStore();
});
afterEach(() => store.close());

const shown = (day: string, title: string, query = 'Wax', device?: string) =>
  newResultPageSchema.parse({
    ...{ query, day, ...(device ? { device } : {}) },
    results: [
      { rank: 2, address: 'https://b.example/', title: 'B' },
      { rank: 1, address: 'https://a.example/', title },
    ],
  });

test('of a query, day and device one result page stands, and the one before is put back in its place', async () => {
  const { db } = store;
  const site = await store.site();
  const first = await keepResultPage(db, site.id, shown('2026-09-14', 'First'));
  const mobile = await keepResultPage(db, site.id, shown('2026-09-14', 'Mobile', 'wax', 'mobile'));
  const second = await keepResultPage(db, site.id, shown('2026-09-14', 'Second'));
  expect(resultPagesOf(db, site.id).map(({ id }) => id)).toEqual([second, mobile]);
  expect(findResultPage(db, first)).toBeNull();
  expect(findResultPage(db, second)).toMatchObject({
    query: { text: 'wax' },
    results: [{ rank: 1, title: 'Second', description: null, extras: [] }, { rank: 2 }],
  });
  await setResultPageDeleted(db, first, false);
  expect(resultPagesOf(db, site.id).map(({ id }) => id)).toEqual([mobile, first]);
  expect(findResultPage(db, second)).toBeNull();
});

test('queries are listed with the newest of their result pages, whatever came in last', async () => {
  const { db } = store;
  const site = await store.site();
  const newest = await keepResultPage(db, site.id, shown('2026-09-20', 'New'));
  await keepResultPage(db, site.id, shown('2026-09-01', 'Old'));
  await keepResultPage(db, site.id, shown('2026-09-10', 'Other', 'honey'));
  expect(lookedUpQueries(db, site.id)).toMatchObject([
    { query: { text: 'wax' }, newest, looks: 2 },
    { query: { text: 'honey' }, looks: 1 },
  ]);
});

test('drafts of a page are kept in their order, written anew, dropped and taken back; of another site none is touched', async () => {
  const { db } = store;
  const site = await store.site();
  const other = await addSite(db, { name: 'Other', address: 'other.quillow-bees.example' });
  const [page] = await write(db, () => pagesForAddresses(db, site, ['/wax/']));
  const a = await addDraft(db, site.id, { pageId: page!.id, of: 'title', text: 'A' });
  const b = await addDraft(db, site.id, { pageId: page!.id, of: 'title', text: 'B' });
  await addDraft(db, site.id, { pageId: page!.id, of: 'description', text: 'D' });
  await saveDraft(db, site.id, a, 'Anew');
  await expect(saveDraft(db, other.id, b, 'Stolen')).rejects.toThrow('was deleted');
  expect(await setDraftDeleted(db, other.id, b, true)).toBe(false);
  await setDraftDeleted(db, site.id, a, true);
  expect(draftsOf(db, [page!.id], 'title').map(({ text }) => text)).toEqual(['B']);
  await setDraftDeleted(db, site.id, a, false);
  expect(draftsOf(db, [page!.id], 'title').map(({ text }) => text)).toEqual(['Anew', 'B']);
  for (let i = 0; i < 18; i++) await addDraft(db, site.id, { pageId: page!.id, of: 'title', text: `${i}` });
  await expect(addDraft(db, site.id, { pageId: page!.id, of: 'title', text: 'x' })).rejects.toThrow(
    'at most 20',
  );
});

test('terms are left out once, by how they are written, and counted again', async () => {
  const { db } = store;
  const site = await store.site();
  for (const written of ['yard', 'yards']) await setLeftOut(db, site.id, { term: 'yard', written }, true);
  await setLeftOut(db, site.id, { term: 'comb', written: 'comb' }, true);
  expect(leftOutTerms(db, site.id)).toEqual([
    { term: 'comb', written: 'comb' },
    { term: 'yard', written: 'yard' },
  ]);
  await setLeftOut(db, site.id, { term: 'yard', written: 'yard' }, false);
  expect(leftOutTerms(db, site.id)).toHaveLength(1);
});

test('of the page of a result the last look counts', async () => {
  const { db } = store;
  const site = await store.site();
  const id = await keepResultPage(db, site.id, shown('2026-09-14', 'First'));
  await keepRival(db, id, 1, { failure: 'It did not answer.' });
  await keepRival(db, id, 1, { facts: { h1: ['Wax'], headings: 3, words: 200, types: [] } });
  await keepRival(db, id, 2, { failure: 'Its robots.txt says no.' });
  expect(rivalsOf(db, id).get(1)).toMatchObject({ facts: { words: 200 }, failure: null });
  expect(rivalsOf(db, id).get(2)).toMatchObject({ facts: null, failure: 'Its robots.txt says no.' });
});
