import { day, HOME, TempStore } from '../../../tests/support/tempDb';
import { connect, disconnect } from '../../store/database';
import { addImport, updateImport } from '../../store/figures/imports';
import { addEvent } from '../../store/ledger/events';
import { Contexts } from './contexts';

const EVENT = {
  ...{ name: 'Update', kind: 'other' as const, firstDay: '2026-10-01', lastDay: null },
  ...{ link: null, note: null, group: null, hidden: false },
};

test('a context outlives imports under way on any connection, and ends with an edit or with new figures', async () => {
  const store = new TempStore();
  const site = await store.site();
  const contexts = new Contexts(store.db);
  const other = connect(store.file);
  const first = contexts.of(site.id);
  expect(first!.lastReadable).toBeNull();

  const id = await addImport(other, {
    ...{ siteId: site.id, fileName: 'a.csv', bytesTotal: 900, takenOn: day('2026-11-01'), state: 'queued' },
  });
  await updateImport(other, id, { state: 'running', rowsRead: 40 });
  expect(contexts.of(site.id)).toBe(first);

  await store.import(site, `date,page,clicks,impressions,position\n2026-10-30,${HOME}/,2,40,3.5\n`);
  const second = contexts.of(site.id);
  expect(second).not.toBe(first);
  expect(second!.lastReadable).toBe(day('2026-10-30'));

  await addEvent(other, site.id, EVENT);
  expect(contexts.of(site.id)).not.toBe(second);
  expect(contexts.of(site.id)!.events).toHaveLength(1);
  disconnect(other);
  store.close();
});
