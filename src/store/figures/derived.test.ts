import { derivedOf } from '../../../tests/support/state';
import { day, HOME, TempStore } from '../../../tests/support/tempDb';
import { clicksIn } from './series';
import { rebuildDerived } from './derived';
import { coveredDaysIn } from './coverage';
import { addSite } from '../sites';

let store: TempStore;
beforeEach(() => {
  store = new TempStore();
});
afterEach(() => store.close());

test('what imports derived one after another, one rebuilding derives at once', async () => {
  const site = await store.site();
  const other = await addSite(store.db, { name: 'Other', address: 'https://other.quillow-bees.example' });
  await store.import(
    site,
    'date,page,query,device,clicks,impressions,position\n2026-01-01,/a/,hive,mobile,1,10,3\n2026-01-01,/a/,hive,desktop,2,20,4\n2026-01-02,/a/,bee,mobile,1,5,6',
  );
  await store.import(
    site,
    'date,page,device,clicks,impressions,position\n2026-01-01,/a/,mobile,3,30,5\n2026-01-01,/a/,desktop,4,40,\n2026-01-03,/b/,mobile,0,7,9',
  );
  await store.import(site, 'date,page,clicks,impressions\n2026-01-01,/a/,8,80');
  await store.import(other, 'date,page,clicks,impressions\n2026-01-05,/a/,1,2');
  const before = derivedOf(store.db, site.id);
  const first = day('2026-01-01');
  // Worked out by hand: the undivided row wins, the query row stands where no total was given (2).
  expect(before.map((line) => (line.startsWith('[') ? JSON.parse(line) : line))).toEqual([
    [`${HOME}/a/`, 0, first, [8, 1], [80, 5], [0, 30], [0, 5], [1, 2]],
    [`${HOME}/a/`, 1, first, [4], [40], [0], [0], [1]],
    [`${HOME}/a/`, 2, first, [3], [30], [150], [30], [1]],
    [`${HOME}/b/`, 0, first + 2, [0], [7], [63], [7], [1]],
    [`${HOME}/b/`, 2, first + 2, [0], [7], [63], [7], [1]],
    `${HOME}/a/`,
    `${HOME}/b/`,
  ]);
  const span = { firstDay: first, lastDay: day('2026-02-01') };
  expect([...coveredDaysIn(store.db, site.id, span)]).toEqual([first, first + 1, first + 2]);
  expect([...coveredDaysIn(store.db, site.id, span, true)]).toEqual([first, first + 1]);
  expect([...coveredDaysIn(store.db, other.id, span)]).toEqual([first + 4]);

  expect(await rebuildDerived(store.db)).toBe(3);
  expect(derivedOf(store.db, site.id)).toEqual(before);

  store.db.$client.exec('UPDATE address SET page_id = NULL; DELETE FROM page_series; DELETE FROM page');
  expect(derivedOf(store.db, site.id)).toEqual([]);
  await rebuildDerived(store.db);
  expect(derivedOf(store.db, site.id)).toEqual(before);
});

test('rebuilding an empty database leaves it empty', async () => {
  const site = await store.site();
  expect(await rebuildDerived(store.db)).toBe(0);
  expect(derivedOf(store.db, site.id)).toEqual([]);
  expect(store.rows('site')).toEqual([expect.objectContaining({ address: HOME })]);
});

test('figures of several addresses of a page are added up, day by day', async () => {
  const site = await store.site();
  await store.import(
    site,
    'date,page,clicks,impressions,position\n2026-01-01,http://quillow-bees.example/a/,1,10,3\n2026-01-02,/a/,5,50,2',
  );
  await store.import(site, 'date,page,clicks,impressions,position\n2026-01-01,/a/,2,20,6');
  expect(
    derivedOf(store.db, site.id).map((line) => (line.startsWith('[') ? JSON.parse(line) : line)),
  ).toEqual([
    [`${HOME}/a/`, 0, day('2026-01-01'), [3, 5], [30, 50], [150, 100], [30, 50], [1, 1]],
    `${HOME}/a/`,
  ]);
});

test('the clicks of a span are read from the part of a series that holds them', async () => {
  const site = await store.site();
  await store.import(
    site,
    [
      'date,page,clicks,impressions',
      ...['2026-01-01,/a/,1,9', '2026-01-04,/a/,20,90', '2026-01-05,/a/,300,900', '2026-01-09,/b/,7,9'],
    ].join('\n'),
  );
  const clicks = (first: string, last: string) => [
    ...clicksIn(store.db, site.id, { firstDay: day(first), lastDay: day(last) }).values(),
  ];
  expect(clicks('2026-01-01', '2026-01-31')).toEqual([321, 7]);
  expect(clicks('2026-01-02', '2026-01-04')).toEqual([20, 0]);
  expect(clicks('2026-01-05', '2026-01-09')).toEqual([300, 7]);
  expect(clicks('2025-01-01', '2025-12-31')).toEqual([0, 0]);
  expect(clicks('2027-01-01', '2027-12-31')).toEqual([0, 0]);
});
