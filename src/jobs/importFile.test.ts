import fc from 'fast-check';
import Papa from 'papaparse';
import { addDays, isoDay } from '../core/calendar/day';
import { normaliseQuery } from '../core/intake/rowReader';
import type { Site } from '../core/model/site';
import { factsOf, stateOf } from '../../tests/support/state';
import { day, HOME, TempStore } from '../../tests/support/tempDb';
import { siteCoverage } from '../store/figures/coverage';
import { pageDaysIn, queryDaysIn } from '../store/figures/days';
import { cancelImport, listProblems, refusedRows } from '../store/figures/imports';
import { listPages } from '../store/addresses/pages';

let store: TempStore;
let site: Site;
beforeEach(async () => {
  store = new TempStore();
  site = await store.site();
});
afterEach(() => store.close());

const HEAD = 'date,page,clicks,impressions,ctr,position';
const ALWAYS = { firstDay: day('2000-01-01'), lastDay: day('2100-01-01') };

/** Daily totals by path, as the readings see them. */
function totals(path: string) {
  const page = listPages(store.db, site.id).find(({ address }) => address === HOME + path);
  return page ? pageDaysIn(store.db, [page.id], ALWAYS) : [];
}

const facts = () => stateOf(store.db, site.id);

const message = (id: number) =>
  listProblems(store.db, id, 10).map((problem) => `${problem.line}: ${problem.message}`);

describe('what is read', () => {
  test.each([
    ['comma', ',', '\n', '7.5'],
    ['semicolon', ';', '\r\n', '7,5'],
    ['tab', '\t', '\n', '7.5'],
    ['old line ends', ',', '\r', '7.5'],
  ])('%s', async (_name, delimiter, newline, position) => {
    const lines = [HEAD.split(','), ['2026-09-14', `${HOME}/guides/`, '3', '40', '99%', position]];
    const done = await store.import(site, lines.map((cells) => cells.join(delimiter)).join(newline));
    expect(done).toMatchObject({
      state: 'done',
      grain: 'page_day',
      rowsRead: 1,
      rowsStored: 1,
      rowsRefused: 0,
    });
    expect([done.firstDay, done.lastDay]).toEqual([day('2026-09-14'), day('2026-09-14')]);
    expect(totals('/guides/')).toEqual([
      {
        day: day('2026-09-14'),
        clicks: 3,
        impressions: 40,
        positionSum: 300,
        positionWeight: 40,
        fromQueries: false,
      },
    ]);
  });

  test('any table reads back equal, whatever the dialect it is written in', async () => {
    const cell = fc.string({ unit: 'grapheme', minLength: 1, maxLength: 12 });
    const rows = fc.uniqueArray(
      fc.record({ day: fc.nat(60), query: cell, clicks: fc.nat(20), more: fc.nat(200) }),
      { selector: (row) => `${row.day} ${normaliseQuery(row.query)}`, minLength: 1, maxLength: 12 },
    );
    const dialect = fc.record({
      delimiter: fc.constantFrom(',', ';', '\t'),
      newline: fc.constantFrom('\n', '\r\n'),
      quotes: fc.boolean(),
      mark: fc.constantFrom('', '\ufeff'),
      turned: fc.boolean(),
    });
    await fc.assert(
      fc.asyncProperty(rows, dialect, async (list, { delimiter, newline, quotes, mark, turned }) => {
        const named = list.filter(({ query }) => normaliseQuery(query) !== '' && !query.includes('\ufffd'));
        fc.pre(named.length > 0);
        const columns = ['date', 'page', 'query', 'clicks', 'impressions'];
        const table = named.map(({ day: at, query, clicks, more }) => ({
          date: isoDay(addDays(day('2026-01-01'), at)),
          page: '/g/',
          query,
          clicks,
          impressions: clicks + more,
        }));
        const text = Papa.unparse(table, {
          columns: turned ? columns.reverse() : columns,
          ...{ delimiter, newline, quotes },
        });
        const own = new TempStore();
        const ownSite = await own.site();
        expect(await own.import(ownSite, mark + text)).toMatchObject({
          rowsStored: named.length,
          rowsRefused: 0,
        });
        const wanted = named.map(({ day: at, query, clicks, more }) =>
          JSON.stringify([
            ...['page_query_day', `${HOME}/g/`, normaliseQuery(query), '', day('2026-01-01') + at, 0, clicks],
            ...[clicks + more, clicks + more === 0 ? 0 : null],
          ]),
        );
        expect(factsOf(own.db, ownSite.id)).toEqual(wanted.sort());
        own.close();
      }),
      { numRuns: 40 },
    );
  });

  test('a byte order mark, quotes and blank lines', async () => {
    const done = await store.import(
      site,
      `\ufeff"date","page","clicks","impressions"\n\n"2026-09-14","/a,b","1","2"\n\n`,
    );
    expect(done).toMatchObject({ state: 'done', rowsRead: 1, rowsStored: 1 });
    expect(totals('/a,b')).toHaveLength(1);
  });

  test('a mapping by hand wins over the names', async () => {
    const csv = 'a,b,c,d\n14/09/2026,/guides/,40,3';
    const mapping = { date: 0, page: 1, impressions: 2, clicks: 3 };
    expect(await store.import(site, csv, { mapping })).toMatchObject({ state: 'done' });
    expect(totals('/guides/')[0]).toMatchObject({ clicks: 3, impressions: 40 });
  });

  test('rows by page and query stay apart from page totals', async () => {
    await store.import(site, `${HEAD}\n2026-09-14,/guides/,10,100,,5`);
    const done = await store.import(
      site,
      'date,page,query,clicks,impressions\n2026-09-14,/guides/,Bee smoker,4,30',
    );
    expect(done.grain).toBe('page_query_day');
    expect(totals('/guides/')[0]).toMatchObject({ clicks: 10, fromQueries: false });
    const pageId = listPages(store.db, site.id)[0]!.id;
    expect(queryDaysIn(store.db, site.id, 'bee smoker', [pageId], ALWAYS)).toMatchObject([
      { clicks: 4, impressions: 30 },
    ]);
    expect(queryDaysIn(store.db, site.id, 'another', [pageId], ALWAYS)).toEqual([]);
  });

  test('without page totals the query rows stand for them until totals come', async () => {
    const queries =
      'date,page,query,clicks,impressions,position\n2026-09-14,/g/,a,4,30,2\n2026-09-14,/g/,b,1,10,6';
    await store.import(site, queries);
    expect(totals('/g/')).toEqual([
      {
        day: day('2026-09-14'),
        clicks: 5,
        impressions: 40,
        positionSum: 120,
        positionWeight: 40,
        fromQueries: true,
      },
    ]);
    await store.import(site, `${HEAD}\n2026-09-14,/g/,7,60,,4`);
    expect(totals('/g/')[0]).toMatchObject({ clicks: 7, impressions: 60, fromQueries: false });
    await store.import(site, queries);
    expect(totals('/g/')[0]).toMatchObject({ clicks: 7, fromQueries: false });
  });

  test('rows by device add up, and give way to undivided rows', async () => {
    const byDevice =
      'date,page,device,clicks,impressions\n2026-09-14,/g/,desktop,1,10\n2026-09-14,/g/,mobile,2,20';
    await store.import(site, byDevice);
    expect(totals('/g/')[0]).toMatchObject({ clicks: 3, impressions: 30 });
    await store.import(site, 'date,page,clicks,impressions\n2026-09-14,/g/,5,40');
    expect(totals('/g/')[0]).toMatchObject({ clicks: 5, impressions: 40 });
    expect(factsOf(store.db, site.id)).toHaveLength(3);
  });
});

describe('the same rows again', () => {
  const first = `${HEAD}\n2026-09-14,/g/,3,40,,5\n2026-09-15,/g/,4,50,,5`;

  test('are replaced, not doubled', async () => {
    await store.import(site, first);
    const before = facts();
    expect(await store.import(site, first)).toMatchObject({
      ...{ rowsStored: 2, rowsReplaced: 2, rowsChanged: 0 },
    });
    expect(facts()).toEqual(before);
  });

  test('the newer file wins, and what it does not name stays', async () => {
    await store.import(site, first);
    const second = await store.import(site, `${HEAD}\n2026-09-15,/g/,9,90,,5\n2026-09-16,/g/,1,10,,5`);
    expect(second).toMatchObject({ rowsStored: 2, rowsReplaced: 1, rowsChanged: 1 });
    expect(totals('/g/').map((row) => row.clicks)).toEqual([3, 9, 1]);
  });

  test('importing twice is importing once', async () => {
    const rows = fc.uniqueArray(
      fc.record({
        day: fc.integer({ min: 0, max: 30 }),
        path: fc.constantFrom('/a/', '/b/', '/c/'),
        clicks: fc.nat(50),
        more: fc.nat(500),
        position: fc.option(fc.integer({ min: 1, max: 90 }), { nil: null }),
      }),
      { selector: (row) => `${row.day}${row.path}`, minLength: 1, maxLength: 20 },
    );
    await fc.assert(
      fc.asyncProperty(rows, async (list) => {
        const lines = list.map((row) =>
          [
            isoDay(addDays(day('2026-01-01'), row.day)),
            row.path,
            row.clicks,
            row.clicks + row.more,
            '',
            row.position ?? '',
          ].join(','),
        );
        await store.import(site, [HEAD, ...lines].join('\n'));
        const once = facts();
        await store.import(site, [HEAD, ...lines.reverse()].join('\n'));
        expect(facts()).toEqual(once);
      }),
      { numRuns: 15 },
    );
  });

  test('parts of a file in any order come to the same as the whole', async () => {
    const spelt = fc.constantFrom('/a/', `http://quillow-bees.example/a/`, '/a/?utm_source=x', '/b/', '/B/');
    const key = fc.tuple(
      fc.nat(70),
      spelt,
      fc.constantFrom('hive', 'bee'),
      fc.constantFrom('', 'mobile', 'desktop'),
    );
    const parts = fc.record({
      keys: fc.uniqueArray(key, { selector: (one) => one.join(), minLength: 2, maxLength: 20 }),
      cuts: fc.array(fc.nat(19), { maxLength: 3 }),
      shuffle: fc.array(fc.nat(), { minLength: 4, maxLength: 4 }),
      byQuery: fc.boolean(),
      again: fc.boolean(),
    });
    await fc.assert(
      fc.asyncProperty(parts, async ({ keys, cuts, shuffle, byQuery, again }) => {
        const head = `date,page,${byQuery ? 'query' : 'country'},device,clicks,impressions,position`;
        const lines = keys.map(
          ([at, path, query, device], i) =>
            `${isoDay(addDays(day('2026-01-01'), at))},${path},${query},${device},${i},${10 + i},${1 + i / 4}`,
        );
        // A line that stands twice, perhaps in two parts.
        if (again) lines.push(lines[0]!);
        const edges = [0, ...cuts.map((cut) => cut % lines.length), lines.length].sort((a, b) => a - b);
        const files = edges.slice(1).map((to, i) => lines.slice(edges[i], to));
        const order = files.map((_, i) => i).sort((a, b) => shuffle[a % 4]! - shuffle[b % 4]!);
        const states: string[][] = [];
        for (const list of [[lines], order.map((i) => files[i]!).filter((file) => file.length > 0)]) {
          const own = new TempStore();
          const ownSite = await own.site();
          for (const file of list) await own.import(ownSite, [head, ...file].join('\n'));
          expect(factsOf(own.db, ownSite.id)).toHaveLength(keys.length);
          states.push(stateOf(own.db, ownSite.id));
          own.close();
        }
        expect(states[1]).toEqual(states[0]);
      }),
      { numRuns: 25 },
    );
  });

  test('within one file, the last line of a key stands', async () => {
    const done = await store.import(
      site,
      `${HEAD}\n2026-09-14,/g/,3,40,,5\n2026-09-14,/g/,3,40,,5\n2026-09-14,/g/,4,50,,5`,
    );
    // A later line with the same key is newer, as a later file is.
    expect(done).toMatchObject({ rowsRead: 3, rowsStored: 1, rowsRepeated: 2 });
    expect(totals('/g/')[0]).toMatchObject({ clicks: 4, impressions: 50 });
  });

  test('within one file, two spellings of a page and rows divided by an unread column are added', async () => {
    await store.import(
      site,
      `${HEAD}\n2026-09-14,http://quillow-bees.example/g/,3,40,,5\n2026-09-14,${HOME}/g/,3,40,,5`,
    );
    expect(totals('/g/')[0]).toMatchObject({ clicks: 6, impressions: 80, positionSum: 400 });
    await store.import(
      site,
      'date,page,clicks,impressions,layout\n2026-09-15,/g/,0,1,plain\n2026-09-15,/g/,0,1,rich',
    );
    expect(totals('/g/')[1]).toMatchObject({ clicks: 0, impressions: 2 });
  });
});

describe('what cannot be read', () => {
  test('bad rows are listed with line and reason, good ones go in', async () => {
    const lines = [
      HEAD,
      '2026-09-14,/g/,3,40,,5',
      '2026-02-30,/g/,3,40,,5',
      '2026-09-15,/g/,-3,40,,5',
      '"2026-09-16","/g\n/",3,40,,5',
      '2026-09-17,/g/,50,40,,5',
      '2026-09-18,/g/,3,40,,0.5',
      '2026-09-19,https://www.other-yard.example/,3,40,,5',
      '2026-09-20,/g/,3',
      '2026-09-21,/g/,3,40,,5,6',
      '2026-09-22,/g/,5,50,,5',
    ];
    const done = await store.import(site, lines.join('\n'));
    expect(done).toMatchObject({ state: 'done', rowsRead: 10, rowsStored: 3, rowsRefused: 7 });
    expect(message(done.id)).toEqual([
      expect.stringMatching(/^3: .*2026-02-30 does not exist/),
      expect.stringMatching(/^4: Clicks cannot be negative/),
      // The record before this one is two lines long.
      expect.stringMatching(/^7: More clicks/),
      expect.stringMatching(/^8: Position 0.5 is below 1/),
      expect.stringMatching(/^9: www.other-yard.example is another site/),
      expect.stringMatching(/^10: The row has 3 cells where the head has 6/),
      expect.stringMatching(/^11: The row has 7 cells where the head has 6/),
    ]);
    expect(refusedRows(store.db, done.id)[1]?.cells).toEqual(['2026-09-15', '/g/', '-3', '40', '', '5']);
    expect(totals('/g/').map((row) => row.clicks)).toEqual([3, 3, 5]);
  });

  test.each<[string, string | Uint8Array, RegExp]>([
    ['nothing', '', /empty/],
    ['words', 'just some words\nand more', /does not look like a CSV/],
    ['JSON', '[{"date": 1}]', /JSON/],
    ['a spreadsheet', Uint8Array.from([0x50, 0x4b, 3, 4, 0, 0]), /broken/],
    ['no date column', 'page,sessions\n/g/,1', /no date column.*“page”, “sessions”/],
    ['no period', 'page,clicks,impressions\n/g/,1,2', /state the first and the last day/],
    ['a head alone', HEAD, /no rows/],
    ['only bad rows', `${HEAD}\nTotal,,1,2,,`, /None of the rows/],
    ['an open quotation mark', `${HEAD}\n2026-09-14,"/g/,1,2,,3\n2026-09-15,/g/,1,2,,3`, /quotation mark/],
    ['day and month in doubt', `${HEAD}\n03/09/2026,/g/,1,2,,3`, /day first or month first/],
  ])('%s is refused as a whole', async (_name, csv, why) => {
    const failed = await store.import(site, csv);
    expect(failed.state).toBe('failed');
    expect(failed.failure).toMatch(why);
    expect(facts()).toEqual([]);
    expect(siteCoverage(store.db, site.id)).toBeNull();
  });

  test('what was ambiguous goes in once it is stated', async () => {
    const csv = `${HEAD}\n03/09/2026,/g/,1,2,,3`;
    await store.import(site, csv, { dateOrder: 'month-first' });
    expect(totals('/g/')[0]?.day).toBe(day('2026-03-09'));
    await store.import(site, csv, { dateOrder: 'day-first' });
    expect(totals('/g/').map((row) => isoDay(row.day))).toEqual(['2026-03-09', '2026-09-03']);
  });

  test('a line without end is refused', async () => {
    const failed = await store.import(site, `${HEAD}\n2026-09-14,/${'x'.repeat(3_000_000)}`);
    expect(failed.failure).toMatch(/more than a million characters/);
  });

  test('a stopped import stores nothing', async () => {
    const csv = [HEAD, ...Array.from({ length: 20_000 }, (_, i) => `2026-09-14,/p${i}/,1,2,,3`)].join('\n');
    // The stop is asked for while the file is being read.
    const importing = store.import(site, csv);
    await cancelImport(store.db, 1);
    expect(await importing).toMatchObject({ state: 'failed', failure: expect.stringMatching(/Cancelled/) });
    expect(facts()).toEqual([]);
  });
});

test('lines of a file that no newline ends, in any chunking, are counted right', async () => {
  const rows = Array.from({ length: 9000 }, (_, i) => `2026-09-14,/päge-${i}/,1,${i === 8999 ? 0 : 2},,3`);
  const done = await store.import(site, [HEAD, ...rows].join('\n'));
  expect(done).toMatchObject({ rowsRead: 9000, rowsStored: 8999 });
  expect(message(done.id)).toEqual(['9001: More clicks (1) than impressions (0).']);
});

test('a file in which every row has a query of its own', async () => {
  const rows = Array.from(
    { length: 150_000 },
    (_, i) => `2026-09-${10 + (i % 9)},/p${i % 7}/,query ${i},1,2`,
  );
  const done = await store.import(site, ['date,page,query,clicks,impressions', ...rows].join('\n'));
  expect(done).toMatchObject({ state: 'done', rowsStored: 150_000 });
  expect(store.db.$client.prepare('SELECT count(*) AS n FROM query').get()).toEqual({ n: 150_000 });
}, 30_000);
