import { day, TempStore } from '../../../tests/support/tempDb';
import { connect, disconnect } from '../database';
import { entriesVersion } from '../write';
import { forgetProgress, noteProgress, withProgress } from './importProgress';
import { addImport, findImport, listImports, unfinishedImports, updateImport } from './imports';

test('progress is told to other connections, and what they computed stands', async () => {
  const store = new TempStore();
  const site = await store.site();
  const values = { siteId: site.id, fileName: 'a.csv', bytesTotal: 900, takenOn: day('2026-11-01') };
  const id = await addImport(store.db, { ...values, state: 'queued' });
  await updateImport(store.db, id, { state: 'running' });
  const other = connect(store.file);
  const state = entriesVersion(other);
  const rowsRead = () => findImport(other, id)?.rowsRead;

  noteProgress(store.db, id, { rowsRead: 40, rowsRefused: 2, bytesRead: 500 });
  expect(findImport(other, id)).toMatchObject({ rowsRead: 40, rowsRefused: 2, bytesRead: 500 });
  expect(listImports(other, site.id)).toMatchObject([{ rowsRead: 40, bytesRead: 500 }]);
  expect(unfinishedImports(other, site.id)).toMatchObject([
    { rowsRead: 40, bytesRead: 500, bytesTotal: 900 },
  ]);
  noteProgress(store.db, id, { rowsRead: 60, rowsRefused: 2, bytesRead: 700 });
  expect(rowsRead()).toBe(60);
  expect(entriesVersion(other)).toBe(state);

  forgetProgress(store.db, id);
  expect(rowsRead()).toBe(0);
  noteProgress(store.db, id, { rowsRead: 60 });
  await updateImport(store.db, id, { state: 'done', rowsRead: 90 });
  expect(rowsRead()).toBe(90);
  disconnect(other);
  store.close();
});

test('a record without told progress is as it stands', () => {
  const store = new TempStore();
  const row = { state: 'running', rowsRead: 7 };
  expect(withProgress(store.db, 1, row)).toEqual(row);
  expect(withProgress(store.db, 'site-1', row)).toEqual(row);
  store.close();
});
