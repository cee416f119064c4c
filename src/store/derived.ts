import type Database from 'better-sqlite3';
import type { Db } from './database';
import { DIVISION } from './figures';
import { deriveSeries } from './series';
import { write } from './write';

/*
 * What is derived from the facts: totals by page and day, one by one and as series, and the days on which a site has figures. It can be thrown
 * away and made again at any time.
 */

/** Temporary tables of a connection: the pages and days to derive, and those of them that have query rows only. */
export function prepareDeriving(client: Database.Database): void {
  client.exec(`
    CREATE TEMP TABLE IF NOT EXISTS touched (page_id INTEGER, day INTEGER, PRIMARY KEY (page_id, day)) WITHOUT ROWID;
    CREATE TEMP TABLE IF NOT EXISTS unserved (page_id INTEGER, day INTEGER, PRIMARY KEY (page_id, day)) WITHOUT ROWID;
  `);
}

/**
 * Brings the totals of the pages and days in the temporary table `touched` up to date. The least divided rows of a
 * page and day stand for it. Must run in a transaction.
 */
export function deriveTotals(client: Database.Database): void {
  const sums = `sum(clicks), sum(impressions), CASE WHEN count(position_sum) = count(*) THEN sum(position_sum) END`;
  client.exec(`
    INSERT OR REPLACE INTO page_total_day
    SELECT f.page_id, f.day, ${sums}, 0
    FROM touched t JOIN page_day f ON f.page_id = t.page_id AND f.day = t.day
    WHERE ${DIVISION} = (SELECT min(${DIVISION}) FROM page_day g WHERE g.page_id = f.page_id AND g.day = f.day)
    GROUP BY f.page_id, f.day;

    -- Where no page totals were ever given, the query rows have to stand for them, and are marked so.
    INSERT INTO unserved SELECT page_id, day FROM touched t
    WHERE NOT EXISTS (SELECT 1 FROM page_day f WHERE f.page_id = t.page_id AND f.day = t.day);

    INSERT OR REPLACE INTO page_total_day
    SELECT x.page_id, x.day, ${sums}, 1
    FROM (
      SELECT f.*, ${DIVISION} AS division,
             min(${DIVISION}) OVER (PARTITION BY f.page_id, f.query_id, f.day) AS least
      FROM page_query_day f WHERE f.page_id IN (SELECT page_id FROM unserved)
    ) x JOIN unserved u ON u.page_id = x.page_id AND u.day = x.day
    WHERE x.division = x.least GROUP BY x.page_id, x.day;
  `);
  deriveSeries(client);
}

/** Notes the days in `touched` as days on which a site has figures, and whether rows by query are among them. */
export function coverDays(client: Database.Database, siteId: number, hasQueries: boolean): void {
  client
    .prepare(
      `INSERT INTO site_day_covered (site_id, day, has_queries)
       SELECT ?, day, ? FROM (SELECT DISTINCT day FROM touched) WHERE true
       ON CONFLICT (site_id, day) DO UPDATE SET has_queries = max(has_queries, excluded.has_queries)`,
    )
    .run(siteId, hasQueries ? 1 : 0);
}

/** Throws away all that is derived and makes it again from the facts, in one transaction. Gives the number of totals. */
export async function rebuildDerived(db: Db): Promise<number> {
  const { $client: client } = db;
  prepareDeriving(client);
  return write(db, () => {
    client.exec(`
      DELETE FROM touched;
      DELETE FROM unserved;
      DELETE FROM page_total_day;
      DELETE FROM page_series;
      DELETE FROM site_day_covered;
      INSERT INTO touched SELECT page_id, day FROM page_day UNION SELECT page_id, day FROM page_query_day;
    `);
    deriveTotals(client);
    client.exec(`
      INSERT INTO site_day_covered (site_id, day, has_queries)
      SELECT p.site_id, f.day, max(f.by_query)
      FROM (
        SELECT DISTINCT page_id, day, 0 AS by_query FROM page_day
        UNION ALL SELECT DISTINCT page_id, day, 1 FROM page_query_day
      ) f JOIN page p ON p.id = f.page_id
      GROUP BY p.site_id, f.day;
      DELETE FROM touched;
      DELETE FROM unserved;
    `);
    return client.prepare<[], { n: number }>('SELECT count(*) AS n FROM page_total_day').get()?.n ?? 0;
  });
}
