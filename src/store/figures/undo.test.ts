import fc from 'fast-check';
import type { Site } from '../../core/model/site';
import { stateOf } from '../../../tests/support/state';
import { day, TempStore } from '../../../tests/support/tempDb';
import { newChangeSchema } from '../../core/model/change';
import { addChange } from '../ledger/changes';
import { siteCoverage } from './coverage';
import { listPages } from '../addresses/pages';
import { redoImport, undoImport } from './undo';

let store: TempStore;
let site: Site;
beforeEach(async () => {
  store = new TempStore();
  site = await store.site();
});
afterEach(() => store.close());

const HEAD = 'date,page,query,device,clicks,impressions,position';
const line = fc
  .tuple(
    fc.nat(50),
    fc.constantFrom('/a/', 'http://quillow-bees.example/a/', '/b/'),
    fc.constantFrom('hive', 'bee'),
    fc.constantFrom('', 'mobile'),
    fc.nat(9),
  )
  .map(([at, page, query, device, clicks]) => {
    const date = new Date(Date.UTC(2026, 0, 1 + at)).toISOString().slice(0, 10);
    return `${date},${page},${query},${device},${clicks},${clicks + 20},${1 + clicks / 4}`;
  });
const anyFile = fc.record({ lines: fc.array(line, { minLength: 1, maxLength: 12 }), byQuery: fc.boolean() });
const bringIn = ({ lines, byQuery }: { lines: string[]; byQuery: boolean }) =>
  // Without the column of queries, the third cell is a country.
  store.import(site, [byQuery ? HEAD : HEAD.replace('query', 'country'), ...lines].join('\n'));

test('bringing a file in and undoing it is doing nothing, and redoing is bringing it in', async () => {
  await fc.assert(
    fc.asyncProperty(anyFile, async (file) => {
      const before = stateOf(store.db, site.id);
      const { id } = await bringIn(file);
      const after = stateOf(store.db, site.id);
      expect(await undoImport(store.db, site, id)).toBe(true);
      expect(stateOf(store.db, site.id)).toEqual(before);
      expect(await redoImport(store.db, site, id)).toBe(true);
      expect(stateOf(store.db, site.id)).toEqual(after);
    }),
    { numRuns: 30 },
  );
});

test('undoing an earlier file leaves what the others bring, in any order of undoing', async () => {
  await fc.assert(
    fc.asyncProperty(fc.array(anyFile, { minLength: 2, maxLength: 4 }), fc.nat(), async (files, pick) => {
      const own = new TempStore();
      [store, site] = [own, await own.site()];
      const ids: number[] = [];
      for (const file of files) ids.push((await bringIn(file)).id);
      const undone = pick % files.length;
      await undoImport(own.db, site, ids[undone]!);
      const state = stateOf(own.db, site.id);
      own.close();

      const other = new TempStore();
      [store, site] = [other, await other.site()];
      for (const [i, file] of files.entries()) if (i !== undone) await bringIn(file);
      expect(state).toEqual(stateOf(other.db, site.id));
      other.close();
    }),
    { numRuns: 15 },
  );
  store = new TempStore();
});

test('a page that a change names outlives its figures', async () => {
  const { id } = await store.import(
    site,
    'date,page,clicks,impressions\n2026-01-01,/a/,1,2\n2026-01-01,/b/,1,2',
  );
  const input = { title: 'T', kind: 'title-rewrite', day: '2026-01-05', pages: ['/a/'] };
  await addChange(store.db, site, newChangeSchema.parse(input));
  await undoImport(store.db, site, id);
  expect(listPages(store.db, site.id).map(({ address }) => address.slice(-3))).toEqual(['/a/']);
  expect(siteCoverage(store.db, site.id)).toBeNull();
  await redoImport(store.db, site, id);
  expect(listPages(store.db, site.id)).toHaveLength(2);
  expect(siteCoverage(store.db, site.id)?.lastDay).toBe(day('2026-01-01'));
});

test('what is not done cannot be undone, nor undone twice', async () => {
  const failed = await store.import(site, 'nothing');
  expect(await undoImport(store.db, site, failed.id)).toBe(false);
  const { id } = await store.import(site, 'date,page,clicks,impressions\n2026-01-01,/a/,1,2');
  expect(await redoImport(store.db, site, id)).toBe(false);
  expect(await undoImport(store.db, { ...site, id: 99 }, id)).toBe(false);
  expect(await undoImport(store.db, site, id)).toBe(true);
  expect(await undoImport(store.db, site, id)).toBe(false);
});
