import fc from 'fast-check';
import { addDays, isoDay } from '../../core/calendar/day';
import type { Site } from '../../core/model/site';
import { derivedOf, stateOf } from '../../../tests/support/state';
import { day, TempStore } from '../../../tests/support/tempDb';
import { rebuildDerived } from './derived';
import { compactLayers } from './fold';
import { findImport, updateImport } from './imports';
import { redoImport, undoImport } from './undo';

const DAY_MS = 24 * 3600 * 1000;
const FIRST = day('2026-01-01');
const NOW = Date.parse('2026-08-01T00:00:00Z');

let store: TempStore;
let site: Site;
beforeEach(async () => {
  store = new TempStore();
  site = await store.site();
});
afterEach(() => store.close());

/** Brings in three days that end on one, with figures by its number, so many days before now. */
async function daily(i: number, ageDays: number, divided = false): Promise<number> {
  const lines = [
    divided ? 'date,page,device,clicks,impressions,position' : 'date,page,clicks,impressions,position',
  ];
  for (let d = Math.max(0, i - 2); d <= i; d++) {
    const date = isoDay(addDays(FIRST, d));
    if (divided) lines.push(`${date},/a/,mobile,${i},${60 + d},4`, `${date},/a/,desktop,1,${50 + d},3`);
    else lines.push(`${date},/a/,${d + i},${100 + d},5`, `${date},/b/,${d},${90 + d},7`);
  }
  const { id } = await store.import(site, lines.join('\n'), {}, isoDay(addDays(FIRST, i + 1)));
  await updateImport(store.db, id, { finishedAt: new Date(NOW - ageDays * DAY_MS).toISOString() });
  return id;
}
const pieces = () => (store.rows('figures') as unknown[]).length;
const state = () => stateOf(store.db, site.id);

test('old layers are folded into one, and what stands stays as it is to the last bit', async () => {
  for (let i = 0; i < 40; i++) await daily(i, 200 - i, i % 5 === 4);
  const before = state();
  // Every file brought a layer: two pages, and one of the divided ones, some over the edge of a piece.
  const layers = pieces();
  expect(await compactLayers(store.db, site, NOW)).toBeGreaterThan(0);
  expect(state()).toEqual(before);
  expect(layers).toBeGreaterThan(60);
  expect(pieces()).toBe(4);
  expect(await compactLayers(store.db, site, NOW)).toBe(0);
  // The day on which each row was taken is kept too: by it one way of dividing stands.
  await rebuildDerived(store.db);
  expect(state()).toEqual(before);
});

test('what is folded can no longer be undone, and what is young enough still can', async () => {
  const old = [await daily(0, 200), await daily(1, 199), await daily(2, 91)];
  const young = [await daily(3, 89), await daily(4, 1)];
  const before = state();
  await compactLayers(store.db, site, NOW);
  expect(state()).toEqual(before);
  for (const id of old) {
    expect(findImport(store.db, id)!.foldedAt).not.toBeNull();
    expect(await undoImport(store.db, site, id)).toBe(false);
  }
  for (const id of young) expect(findImport(store.db, id)!.foldedAt).toBeNull();
  expect(state()).toEqual(before);
  expect(await undoImport(store.db, site, young[1]!)).toBe(true);
  expect(state()).not.toEqual(before);
  expect(await redoImport(store.db, site, young[1]!)).toBe(true);
  expect(state()).toEqual(before);
});

test('a file that is undone keeps its place between the layers, and can still come back', async () => {
  await daily(0, 200);
  const undone = await daily(1, 199);
  await daily(2, 198);
  await daily(3, 197);
  const before = state();
  await undoImport(store.db, site, undone);
  await updateImport(store.db, undone, { finishedAt: new Date(NOW - 199 * DAY_MS).toISOString() });
  const without = state();
  await compactLayers(store.db, site, NOW);
  expect(state()).toEqual(without);
  expect(findImport(store.db, undone)!.foldedAt).toBeNull();
  expect(await redoImport(store.db, site, undone)).toBe(true);
  expect(state()).toEqual(before);
});

test('how long files can be undone is for the site to say', async () => {
  for (let i = 0; i < 4; i++) await daily(i, 20 - i);
  expect(await compactLayers(store.db, site, NOW)).toBe(0);
  expect(await compactLayers(store.db, { ...site, undoDays: 10 }, NOW)).toBe(2);
});

test('folding now and then while files come in comes to the same as never folding', async () => {
  const file = fc.record({ at: fc.nat(40), divided: fc.boolean(), fold: fc.boolean() });
  await fc.assert(
    fc.asyncProperty(fc.array(file, { minLength: 2, maxLength: 9 }), async (files) => {
      const outer = [store, site] as const;
      const states: string[][] = [];
      for (const folds of [true, false]) {
        store = new TempStore();
        site = await store.site();
        for (const { at, divided, fold } of files) {
          await daily(at, 200, divided);
          if (fold && folds) await compactLayers(store.db, site, NOW);
        }
        states.push([...state(), ...derivedOf(store.db, site.id)]);
        store.close();
      }
      [store, site] = outer;
      expect(states[0]).toEqual(states[1]);
    }),
    { numRuns: 15 },
  );
});
