import { spawnSync } from 'node:child_process';
import { createWriteStream } from 'node:fs';
import { once } from 'node:events';
import path from 'node:path';
import { listQueryFrom } from '../../core/lists/address';
import { listPages } from '../../store/addresses/pages';
import { bringForward, connect } from '../../store/database';
import { columnsUsedAgain } from '../../core/facts/pack';
import { standingRows } from '../../core/facts/standing';
import { pageFacts } from '../../store/figures/layers';
import { ALWAYS } from '../../store/figures/layers';
import { Engines } from '../../services/site/engines';
import { Findings } from '../../services/pages/findings';
import { Lists } from '../../services/lists/lists';
import { listRequest } from '../../services/lists/fromQuery';
import { SiteContext } from '../../services/site/siteContext';
import { makeFullSite } from '../readings/fullSite';

/*
 * Lists at full size beside the same question in SQL on a plain indexed table in the sqlite3 program, by turns in one run. The first
 * argument is a folder; the second the rows of each query.
 */

const folder = process.argv[2]!;
const SIZE = {
  pages: 2000,
  days: 480,
  changes: 0,
  queriesAPage: 50,
  rowsAQuery: Number(process.argv[3] ?? 150),
};
const TURNS = 5;

const db = connect(path.join(folder, 'tally.sqlite'));
bringForward(db);
const site = await makeFullSite(db, SIZE);
const plain = path.join(folder, 'plain.sqlite');
await writePlainTable();

async function writePlainTable(): Promise<void> {
  const file = path.join(folder, 'rows.csv');
  const out = createWriteStream(file);
  const columns = columnsUsedAgain();
  for (const { id } of listPages(db, site.id)) {
    let text = '';
    for (const piece of pageFacts(db, id, 'page_query_day', ALWAYS, columns)) {
      const { day, query, values } = piece.facts;
      const standing = standingRows(piece);
      for (let i = 0; i < standing.length; i++) {
        const row = standing[i]!;
        text += `${id},${query[row]},${day[row]},${values[0]![row]},${values[1]![row]},${values[2]![row]}\n`;
      }
    }
    if (!out.write(text)) await once(out, 'drain');
  }
  out.end();
  await once(out, 'finish');
  sqlite3(
    [
      'CREATE TABLE fact (page INTEGER, query INTEGER, day INTEGER, clicks INTEGER, impressions INTEGER, position REAL);',
      '.mode csv',
      `.import ${file} fact`,
      'CREATE INDEX fact_by_day ON fact (day, query, clicks, impressions, position);',
    ].join('\n'),
  );
}

/** Runs SQL in the program; gives the milliseconds that the process took. */
function sqlite3(sql: string): number {
  const start = performance.now();
  const { status, stderr } = spawnSync('sqlite3', [plain], { input: sql, maxBuffer: 1 << 28 });
  if (status !== 0) throw new Error(String(stderr));
  return performance.now() - start;
}

const sumOver = (from: number, to: number, was: number) => `
  SELECT query, sum(CASE WHEN day >= ${from} THEN clicks ELSE 0 END) AS c, sum(CASE WHEN day >= ${from} THEN impressions ELSE 0 END) AS m,
    sum(CASE WHEN day < ${from} THEN clicks ELSE 0 END), sum(CASE WHEN day < ${from} THEN impressions ELSE 0 END), sum(position)
  FROM fact WHERE day BETWEEN ${was} AND ${to} GROUP BY query ORDER BY m DESC LIMIT 50;`;

const context = new SiteContext(db, site);
const last = context.lastReadable!;
const first = last - SIZE.days + 1;
const engines = new Engines(db);
// What the server has after its start: the totals of pages, and the CTR by position.
const { curve } = engines.figures(site)!;
curve(3);

const days = (from: number, to: number, against: string) => ({
  from: new Date(from * 86_400_000).toISOString().slice(0, 10),
  to: new Date(to * 86_400_000).toISOString().slice(0, 10),
  against,
});
function ask(lists: Lists, subject: 'queries' | 'pages' | 'pairs', query: Record<string, string>): number {
  const start = performance.now();
  const wish = listRequest(context, subject, listQueryFrom(query, subject));
  if (!wish || typeof wish === 'string') throw new Error(String(wish));
  lists.list(context, wish);
  return performance.now() - start;
}
const median = (values: number[]) => [...values].sort((a, b) => a - b)[values.length >> 1]!;
const ms = (value: number) => `${value.toFixed(0)} ms`;

console.log(
  `site: ${SIZE.pages} pages, ${(SIZE.pages * SIZE.queriesAPage * SIZE.rowsAQuery).toLocaleString('en-GB')} rows by query`,
);
for (const [name, from, against, was] of [
  ['queries, 28 days against 28', last - 27, 'before', last - 55],
  ['queries, 16 months', first, 'none', first],
] as const) {
  const [theirs, ours, again, paged]: number[][] = [[], [], [], []];
  for (let turn = 0; turn < TURNS; turn++) {
    theirs!.push(sqlite3(sumOver(from, last, was)));
    const lists = new Lists(engines, new Findings());
    ours!.push(ask(lists, 'queries', days(from, last, against)));
    again!.push(ask(lists, 'queries', { ...days(from, last, against), sort: 'position', 'clicks.min': '1' }));
    paged!.push(ask(lists, 'queries', { ...days(from, last, against), cursor: '500' }));
  }
  console.log(
    `${name}: first ${ms(median(ours!))} (of a process, ${ms(ours![0]!)}), another sort and filter ${ms(median(again!))}, another page ${ms(median(paged!))}; sqlite3 ${ms(median(theirs!))}, ratio ${(median(ours!) / median(theirs!)).toFixed(3)}`,
  );
}
{
  const [first_, again]: number[][] = [[], []];
  for (let turn = 0; turn < TURNS; turn++) {
    const lists = new Lists(engines, new Findings());
    first_!.push(ask(lists, 'pages', days(last - 27, last, 'before')));
    again!.push(ask(lists, 'pages', { ...days(last - 27, last, 'before'), sort: '-clicks' }));
  }
  console.log(`pages, 28 days against 28: first ${ms(median(first_!))}, another sort ${ms(median(again!))}`);
}
console.log(`memory of this process: ${(process.memoryUsage().rss / 1e6).toFixed(0)} MB`);
db.$client.close();
