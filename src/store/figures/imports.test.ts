import { TempStore, day } from '../../../tests/support/tempDb';
import { addSite } from '../sites';
import { addImport, unfinishedImports, updateImport } from './imports';

test('files that wait are listed in the order in which they run, whichever site they are of', async () => {
  const store = new TempStore();
  const [site, other] = [
    await store.site(),
    await addSite(store.db, { name: 'Other', address: 'https://other.quillow-bees.example' }),
  ];
  const add = (siteId: number, state: 'draft' | 'queued') =>
    addImport(store.db, { siteId, fileName: 'f.csv', bytesTotal: 100, takenOn: day('2026-01-01'), state });
  const [running, , elsewhere, waiting] = [
    await add(site.id, 'queued'),
    await add(site.id, 'draft'),
    await add(other.id, 'queued'),
    await add(site.id, 'queued'),
  ];
  await updateImport(store.db, running, { state: 'running', rowsRead: 40, bytesRead: 50 });
  expect(unfinishedImports(store.db, site.id)).toEqual([
    { id: running, state: 'running', rowsRead: 40, bytesRead: 50, bytesTotal: 100, before: 0 },
    { id: waiting, state: 'queued', rowsRead: 0, bytesRead: 0, bytesTotal: 100, before: 2 },
  ]);
  expect(unfinishedImports(store.db, other.id)).toMatchObject([{ id: elsewhere, before: 1 }]);
  await updateImport(store.db, running, { state: 'done' });
  expect(unfinishedImports(store.db, site.id)).toMatchObject([{ id: waiting, before: 1 }]);
  store.close();
});
