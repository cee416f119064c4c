import { randomLcg, randomNormal, randomPoisson } from 'd3-random';
import { addDays, asDay, isoDay } from '../../core/calendar/day';
import { newChangeSchema } from '../../core/model/change';
import type { Site } from '../../core/model/site';
import { addChange } from '../../store/changes';
import type { Db } from '../../store/database';
import { coverDays, deriveTotals, prepareDeriving } from '../../store/derived';
import { addSite } from '../../store/sites';
import { write } from '../../store/write';

/** How large the site is made. */
export type Size = {
  readonly pages: number;
  readonly days: number;
  readonly changes: number;
  readonly queriesAPage: number;
  readonly rowsAQuery: number;
};

const FIRST_DAY = asDay(20_000);

/** Fills an empty database with a site of full size: daily totals, rows by query, and changes, by a fixed seed. */
export async function makeFullSite(db: Db, size: Size): Promise<Site> {
  const { $client: client } = db;
  const site = await addSite(db, { name: 'Bench', address: 'https://www.quillow-bees.example' });
  const random = randomLcg(0.31);
  const normal = randomNormal.source(random)();
  prepareDeriving(client);
  await write(db, () => {
    const page = client.prepare('INSERT INTO page (id, site_id, address) VALUES (?, ?, ?)');
    const fact = client.prepare("INSERT INTO page_day VALUES (?, ?, 0, '', ?, ?, ?)");
    for (let id = 1; id <= size.pages; id++) {
      page.run(id, site.id, `${site.address}/part-${id % 7}/page-${id}/`);
      const level = Math.exp(0.8 + 1.5 * normal());
      const [clicks, more] = [randomPoisson.source(random)(level), randomPoisson.source(random)(level * 25)];
      for (let i = 0; i < size.days; i++) {
        const c = clicks();
        const impressions = c + more();
        if (impressions > 0) fact.run(id, FIRST_DAY + i, c, impressions, impressions * (4 + (id % 9)));
      }
    }
    makeQueryRows(db, site.id, size);
    client.exec('DELETE FROM touched; INSERT INTO touched SELECT page_id, day FROM page_day');
    deriveTotals(client);
    coverDays(client, site.id, true);
    client
      .prepare(
        `INSERT INTO import (site_id, file_name, state, bytes_total, taken_on, created_at, finished_at, last_day)
         VALUES (?, 'bench', 'done', 0, ?, '', '', ?)`,
      )
      .run(site.id, FIRST_DAY + size.days + 30, FIRST_DAY + size.days - 1);
  });
  for (let i = 0; i < size.changes; i++) {
    const at = 30 + Math.floor(random() * (size.days - 70));
    const id = 1 + Math.floor(random() * size.pages);
    const input = {
      title: `Change ${i + 1}`,
      kind: 'title-rewrite',
      day: isoDay(addDays(FIRST_DAY, at)),
      pages: [`/part-${id % 7}/page-${id}/`],
    };
    await addChange(db, site, newChangeSchema.parse(input));
  }
  return site;
}

/** Rows by query for every page, spread over the days, made by arithmetic within the database. */
function makeQueryRows({ $client: client }: Db, siteId: number, size: Size): void {
  const query = client.prepare('INSERT INTO query (id, site_id, text) VALUES (?, ?, ?)');
  const known = size.queriesAPage * 20;
  for (let id = 1; id <= known; id++) query.run(id, siteId, `search number ${id}`);
  const rows = client.prepare(
    `WITH RECURSIVE
       q(n) AS (SELECT 0 UNION ALL SELECT n + 1 FROM q WHERE n + 1 < $queries),
       d(n) AS (SELECT 0 UNION ALL SELECT n + 1 FROM d WHERE n + 1 < $days)
     INSERT INTO page_query_day
     SELECT $page, 1 + ($page * 7 + q.n) % $known, $first + (d.n * $step + q.n) % $span, 0, '',
            (d.n * 13 + q.n + $page) % 3, 3 + (d.n * 37 + q.n * 11 + $page) % 40,
            (3 + (d.n * 37 + q.n * 11 + $page) % 40) * (1 + (q.n * 5 + $page) % 20)
     FROM q CROSS JOIN d WHERE true
     ON CONFLICT DO NOTHING`,
  );
  const step = Math.max(1, Math.floor(size.days / size.rowsAQuery));
  for (let page = 1; page <= size.pages; page++) {
    const { queriesAPage: queries, rowsAQuery: days } = size;
    rows.run({ page, queries, days, known, step, first: FIRST_DAY, span: size.days });
  }
}
