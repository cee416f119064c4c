import { newChangeSchema } from '../../src/core/model/change';
import { newEventSchema } from '../../src/core/model/event';
import { newReportSchema } from '../../src/core/model/report';
import { newRoutineSchema } from '../../src/core/routines/routine';
import { newResultPageSchema } from '../../src/core/wording/resultPage';
import type { Site } from '../../src/core/model/site';
import { compactLayers } from '../../src/store/figures/fold';
import { undoImport } from '../../src/store/figures/undo';
import { newFeedSchema } from '../../src/core/model/feed';
import { addFeed } from '../../src/store/figures/feeds';
import { addChange, editChange, setChangeDeleted } from '../../src/store/ledger/changes';
import { addEvent, saveEvent } from '../../src/store/ledger/events';
import { addReport } from '../../src/store/reports/reports';
import { keepRoutine } from '../../src/store/routines/routines';
import { keepResultPage } from '../../src/store/wording/resultPages';
import { aRound } from './round';
import type { TempStore } from './tempDb';

const HEAD = 'date,page,query,clicks,impressions,position,device,country';
const row = (day: number, path: string, query: string, clicks: number, country: string) =>
  `2026-09-${String(day).padStart(2, '0')},https://www.quillow-bees.example${path},${query},${clicks},${clicks * 9},${(day % 7) + 1.37},mobile,${country}`;
const daily = (from: number, to: number, more: number) =>
  Array.from({ length: to - from + 1 }, (_, i) => from + i).flatMap((day) => [
    row(day, '/a', '"smoker, ""large"""', 3 + more + (day % 3), 'zoland'),
    row(day, '/a', '=sum of bees', 1 + more, 'arland'),
    row(day, '/b/', 'queen', 2 + more, 'arland'),
  ]);

/** Fills a site with something of everything that is kept: layers that are folded and undone, edits, deletions, and rows of every table. */
export async function fillSite(store: TempStore, site: Site): Promise<void> {
  const { db } = store;
  const page = (csv: string[]) => store.import(site, [HEAD, ...csv].join('\n'));
  await page(daily(1, 28, 0));
  await page(daily(20, 28, 4));
  db.$client.exec("UPDATE import SET finished_at = '2020-01-01T00:00:00.000Z'");
  await compactLayers(db, site, Date.now());
  const undone = await page(daily(27, 30, 9));
  await undoImport(db, site, undone.id);
  await store.import(
    site,
    [
      'date,page,clicks,impressions,position',
      ...daily(1, 30, 0).map(
        (_, i) =>
          `2026-09-${String(1 + Math.floor(i / 3)).padStart(2, '0')},https://www.quillow-bees.example/${'abc'[i % 3]},${40 + (i % 7)},${600 + i},${4.25 + (i % 3)}`,
      ),
      'rubbish,x,y,z,1',
    ].join('\n'),
  );
  await store.import(site, 'query,searches a month\nqueen,900\n=sum of bees,10\n');
  await store.import(site, 'page,group\nhttps://www.quillow-bees.example/a,guides\n');
  await store.import(
    site,
    'page,query,clicks,impressions,position\nhttps://www.quillow-bees.example/a,queen,5,90,3.5\n',
    {
      period: { firstDay: '2026-07-01', lastDay: '2026-07-31' },
    } as never,
  );

  const change = newChangeSchema.parse({
    ...{
      title: 'A title',
      kind: 'title-rewrite',
      day: '2026-09-14',
      pages: ['/a', '/b/'],
      queries: ['queen'],
    },
    ...{
      tags: ['autumn'],
      oldText: 'old',
      newText: 'new',
      person: 'IK',
      link: 'https://t.quillow-bees.example/1',
    },
    ...{ parts: [{ kind: 'h1', page: '/a', oldText: 'x', newText: 'y' }] },
    ...{ expectation: { metric: 'ctr', direction: 'up', amount: 0.2, reviewDay: '2026-10-14' } },
  });
  const { id } = await addChange(db, site, change);
  await editChange(db, site, id, { ...change, title: 'A better title' });
  const gone = await addChange(
    db,
    site,
    newChangeSchema.parse({ title: 'Gone', kind: 'other', day: '2026-09-02', pages: ['/c'], followsId: id }),
  );
  await setChangeDeleted(db, gone.id, true);
  const event = newEventSchema.parse({
    name: 'Clover update',
    kind: 'algorithm-update',
    firstDay: '2026-09-10',
  });
  const { id: eventId } = await addEvent(db, site.id, event);
  await saveEvent(db, eventId, { ...event, name: 'Clover core update' });
  await addFeed(
    db,
    site.id,
    newFeedSchema.parse({
      name: 'F',
      address: 'https://f.example/',
      token: 'secret',
      daily: true,
      allowPrivate: true,
    }),
  );
  await keepResultPage(
    db,
    site.id,
    newResultPageSchema.parse({
      ...{ query: 'queen', day: '2026-09-14' },
      results: [{ rank: 1, address: 'https://rival.example/', title: 'T' }],
    }),
  );
  const round = await aRound(db, site, ['/a', '/b/']);
  await addReport(
    db,
    site.id,
    newReportSchema.parse({
      title: 'R',
      from: '2026-09-01',
      to: '2026-09-30',
      scope: { kind: 'round', roundId: round },
    }),
  );
  await keepRoutine(
    db,
    site.id,
    null,
    newRoutineSchema.parse({
      ...{ name: 'Monthly', rule: 'FREQ=MONTHLY;BYDAY=1MO', firstDay: '2026-09-07' },
      steps: [{ text: 'Look', link: '/openings' }],
    }),
  );
  rest(store, site.id, { change: id, round });
}

/** A row in each table that the above leaves empty. */
function rest({ db }: TempStore, siteId: number, { change, round }: { change: number; round: number }): void {
  const run = (sql: string, ...values: unknown[]) => db.$client.prepare(sql).run(...values);
  const one = (sql: string) => db.$client.prepare<[number], number>(sql).pluck().get(siteId)!;
  const page = one('SELECT min(id) FROM page WHERE site_id = ?');
  const query = one('SELECT min(id) FROM query WHERE site_id = ?');
  const result = one('SELECT min(id) FROM result_page WHERE site_id = ?');
  const report = one('SELECT min(id) FROM report WHERE site_id = ?');
  const routine = one('SELECT min(id) FROM routine WHERE site_id = ?');
  const at = '2026-09-20T10:00:00.000Z';
  const evidence = {
    ...{ status: 200, finalAddress: 'https://www.quillow-bees.example/a', title: 'T', description: null },
    ...{ canonical: null, robots: [], headings: [{ level: 1, text: 'H' }], structuredData: [], words: 1 },
    ...{ text: 'x', links: [], images: 0, imagesWithoutAlt: [], encoding: 'utf-8', misfits: 0 },
  };
  const snapshot = run(
    'INSERT INTO snapshot (site_id, page_id, day, last_day, taken_at, last_seen_at, title, evidence, differences) VALUES (?, ?, 20700, 20701, ?, ?, ?, ?, ?)',
    ...[siteId, page, at, at, 'T', JSON.stringify(evidence)],
    JSON.stringify([{ aspect: 'title', kind: 'title-rewrite', before: 'S', after: 'T' }]),
  ).lastInsertRowid;
  run('INSERT OR REPLACE INTO change_step VALUES (?, ?, 20701, ?)', change, 'crawled', at);
  run(
    'INSERT INTO reading_said VALUES (?, ?, 20740, ?, ?)',
    change,
    `20668 20695 20699 20726 ${page}`,
    'held',
    'It held.',
  );
  run('INSERT INTO idempotency VALUES (?, ?, ?, ?, ?)', siteId, 'k', '{}', change, at);
  run(
    'INSERT INTO taken_opening VALUES (?, ?)',
    change,
    JSON.stringify({ key: 'k', clicks: 1.5, low: 0, high: 3 }),
  );
  run('INSERT INTO page_look (page_id, site_id, watched) VALUES (?, ?, 1)', page, siteId);
  run('INSERT INTO sighting (page_id, day, since, title, at) VALUES (?, 20700, 20690, ?, ?)', page, 'T', at);
  run(
    'INSERT INTO moving_group (site_id, name, pages) VALUES (?, ?, ?)',
    siteId,
    'G',
    JSON.stringify([page]),
  );
  run('INSERT INTO page_trait (page_id, target, weight) VALUES (?, ?, 2.5)', page, 'queen');
  run('INSERT INTO query_trait (query_id, target_page_id, intent) VALUES (?, ?, ?)', query, page, 'to-buy');
  run(
    'INSERT INTO kept_filter (site_id, subject, name, query) VALUES (?, ?, ?, ?)',
    siteId,
    'pages',
    'F',
    '?x=1',
  );
  run('INSERT INTO passed_opening VALUES (?, ?, ?, 12.5, ?)', siteId, 'unsaid|a|', 'no', at);
  run('INSERT INTO site_word VALUES (?, ?, ?, ?)', siteId, 'en', 'to-buy', 'order');
  run(
    'INSERT INTO sheet (site_id, name, day, first_day, last_day, pages, lines) VALUES (?, ?, 20700, 20600, 20690, ?, ?)',
    ...[siteId, 'S', JSON.stringify([page])],
    JSON.stringify([{ page: '/a', query: 'q', clicks: 1, impressions: 2 }]),
  );
  run(
    'INSERT INTO rival_page VALUES (?, 1, ?, ?, NULL)',
    result,
    at,
    JSON.stringify({ h1: [], headings: 2, words: 3, types: [] }),
  );
  run(
    'INSERT INTO draft (site_id, page_id, of, text, at, changed_at) VALUES (?, ?, ?, ?, ?, ?)',
    siteId,
    page,
    'title',
    'D',
    at,
    at,
  );
  run('INSERT INTO left_out_term VALUES (?, ?, ?)', siteId, 'rival', 'Rival');
  run('INSERT INTO intake_memory VALUES (?, ?, ?)', siteId, 'a,b', '{}');
  run(
    'INSERT INTO round_history (round_id, at, was) SELECT id, ?, ? FROM round WHERE id = ?',
    at,
    JSON.stringify({
      id: round,
      siteId,
      name: 'Round',
      kind: 'other',
      pages: [],
      changes: { first: change },
    }),
    round,
  );
  run(
    'INSERT INTO report_issue VALUES (?, 1, 20750, ?, ?)',
    report,
    JSON.stringify({
      content: {
        ...{ title: 'R', site: 'Q', address: 'https://www.quillow-bees.example', about: 'the whole site' },
        ...{ span: { firstDay: 20700, lastDay: 20727 }, readOn: 20750, figuresTo: 20749 },
        parts: [{ key: 'traffic', heading: 'H', sentences: ['S.'], tables: [], strips: null }],
      },
      words: {},
      ink: 'ink',
      logo: null,
      issue: null,
      changed: [],
    }),
    at,
  );
  run('INSERT INTO routine_done VALUES (?, 20700, 0, ?, ?)', routine, 'IK', at);
  for (const key of [
    `review-due/${change}`,
    `unlogged/${snapshot}`,
    `fell-back/${page}`,
    `round-due/${round}/read`,
  ])
    run('INSERT INTO put_off VALUES (?, ?, 20800)', siteId, key);
}
