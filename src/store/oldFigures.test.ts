import { derivedOf, factsOf } from '../../tests/support/state';
import { day, HOME, TempStore } from '../../tests/support/tempDb';
import { siteCoverage } from './figures';
import { carryOldFigures, holdsOldFigures } from './oldFigures';

let store: TempStore;
beforeEach(() => {
  store = new TempStore();
});
afterEach(() => store.close());

test('a new database holds no old figures, and loses the empty tables', async () => {
  const tables = () =>
    store.db.$client
      .prepare<[], { n: number }>(
        "SELECT count(*) AS n FROM sqlite_master WHERE name IN ('page_day', 'page_query_day')",
      )
      .get()!.n;
  expect([holdsOldFigures(store.db), tables()]).toEqual([false, 2]);
  await carryOldFigures(store.db);
  expect([holdsOldFigures(store.db), tables()]).toEqual([false, 0]);
  await carryOldFigures(store.db);
});

test('figures of an earlier version are carried over as if a file had brought them', async () => {
  const site = await store.site();
  const first = day('2026-01-01');
  store.db.$client.exec(`
    INSERT INTO page (id, site_id, address) VALUES (7, ${site.id}, '${HOME}/a/'), (9, ${site.id}, '${HOME}/b/');
    INSERT INTO query (id, site_id, text) VALUES (3, ${site.id}, 'hive');
    INSERT INTO page_day VALUES (7, ${first}, 0, '', 5, 50, 150), (7, ${first + 40}, 2, 'nor', 1, 10, NULL);
    INSERT INTO page_query_day VALUES (9, 3, ${first}, 0, '', 2, 20, 80.5);
    INSERT INTO import (site_id, file_name, state, bytes_total, taken_on, created_at)
      VALUES (${site.id}, 'old.csv', 'done', 1, ${first + 50}, 'then');
  `);
  expect(holdsOldFigures(store.db)).toBe(true);
  await carryOldFigures(store.db);
  expect(holdsOldFigures(store.db)).toBe(false);
  expect(factsOf(store.db, site.id).map((line) => JSON.parse(line))).toEqual([
    ['page_day', `${HOME}/a/`, '', '', first, 0, 5, 50, 150],
    ['page_day', `${HOME}/a/`, '', 'nor', first + 40, 2, 1, 10, null],
    ['page_query_day', `${HOME}/b/`, 'hive', '', first, 0, 2, 20, 80.5],
  ]);
  // Pages keep their numbers, by which changes name them.
  expect(store.rows('page')).toMatchObject([{ id: 7 }, { id: 9 }]);
  expect(derivedOf(store.db, site.id)).toHaveLength(5);
  expect(siteCoverage(store.db, site.id)).toEqual({ lastDay: first + 40, takenOn: first + 50 });
});

test('begun again after it was stopped half-way, it carries over the rest', async () => {
  const site = await store.site();
  store.db.$client.exec(`
    INSERT INTO page (id, site_id, address) VALUES (1, ${site.id}, '${HOME}/a/');
    INSERT INTO page_day VALUES (1, 20000, 0, '', 5, 50, 150);
    INSERT INTO import (site_id, file_name, state, bytes_total, taken_on, created_at, started_at)
      VALUES (${site.id}, 'figures of an earlier version', 'failed', 0, 0, 'then', 'then');
  `);
  await carryOldFigures(store.db);
  expect(factsOf(store.db, site.id)).toHaveLength(1);
});
