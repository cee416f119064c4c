import type { FigureRow } from '../core/intake/row';
import type { Day } from '../core/calendar/day';
import type { Db } from './database';
import { coverDays, deriveTotals, prepareDeriving } from './derived';
import { timestamp, write } from './write';

/** Refused rows kept whole for saving; of a hopeless file with more, the rest are only counted. */
export const MOST_REFUSED_KEPT = 200_000;

type Grain = 'page_day' | 'page_query_day';
type Counts = { read: number; accepted: number; repeated: number; refused: number };

/** What a merge did, as it is recorded with the import. */
export type MergeResult = { replaced: number; firstDay: Day; lastDay: Day };

/**
 * The rows of one file on their way in. They wait in temporary tables of one connection, where they block nobody;
 * `merge` then puts all of them in place in a single transaction, so that a process that dies at any point before
 * leaves the database as it was.
 *
 * Within one file, a line that repeats another to the letter counts once, and lines that share a key but differ
 * elsewhere (two spellings of an address, a column that is not read) are added together. Between files the newer
 * one replaces.
 */
export class Staging {
  readonly counts: Counts = { read: 0, accepted: 0, repeated: 0, refused: 0 };
  private readonly pages = new Map<string, number>();
  private readonly queries = new Map<string, number>();
  private readonly insertRow;
  private readonly insertPage;
  private readonly insertQuery;
  private readonly insertRefused;
  private firstDay = Infinity;
  private lastDay = -Infinity;

  constructor(private readonly db: Db) {
    const { $client: client } = db;
    client.exec(`
      CREATE TEMP TABLE stage_page (id INTEGER PRIMARY KEY, address TEXT NOT NULL, page_id INTEGER);
      CREATE TEMP TABLE stage_query (id INTEGER PRIMARY KEY, text TEXT NOT NULL, query_id INTEGER);
      CREATE TEMP TABLE stage_row (
        page INTEGER, query INTEGER, day INTEGER, device INTEGER, country TEXT, fingerprint INTEGER,
        clicks INTEGER, impressions INTEGER, position_sum REAL,
        PRIMARY KEY (page, query, day, device, country, fingerprint)) WITHOUT ROWID;
      CREATE TEMP TABLE stage_refused (line INTEGER PRIMARY KEY, message TEXT NOT NULL, cells TEXT NOT NULL);
    `);
    prepareDeriving(client);
    this.insertPage = client.prepare('INSERT INTO stage_page (id, address) VALUES (?, ?)');
    this.insertQuery = client.prepare('INSERT INTO stage_query (id, text) VALUES (?, ?)');
    this.insertRow = client.prepare('INSERT OR IGNORE INTO stage_row VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)');
    this.insertRefused = client.prepare('INSERT OR IGNORE INTO stage_refused VALUES (?, ?, ?)');
  }

  /** Runs many additions as one transaction on the temporary tables, which is much faster than one each. */
  batch(work: () => void): void {
    this.db.$client.transaction(work)();
  }

  add(row: FigureRow, fingerprint: number): void {
    const page = idOf(this.pages, row.address, this.insertPage);
    const query = row.query === null ? 0 : idOf(this.queries, row.query, this.insertQuery);
    const { changes } = this.insertRow.run(
      ...[page, query, row.day, row.device, row.country, fingerprint],
      ...[row.clicks, row.impressions, row.positionSum],
    );
    this.counts.read++;
    if (changes === 0) {
      this.counts.repeated++;
      return;
    }
    this.counts.accepted++;
    if (row.day < this.firstDay) this.firstDay = row.day;
    if (row.day > this.lastDay) this.lastDay = row.day;
  }

  refuse(line: number, message: string, cells: readonly string[]): void {
    this.counts.read++;
    this.counts.refused++;
    if (this.counts.refused <= MOST_REFUSED_KEPT)
      this.insertRefused.run(line, message, JSON.stringify(cells));
  }

  /** Puts everything in place and marks the import as done, in one transaction. */
  async merge(importId: number, siteId: number, grain: Grain): Promise<MergeResult> {
    return write(this.db, () => {
      this.resolveIds(siteId);
      const replaced = this.storeFacts(grain);
      this.derive(siteId, grain);
      this.keepRefused(importId);
      const result = { replaced, firstDay: this.firstDay as Day, lastDay: this.lastDay as Day };
      this.finish(importId, grain, result);
      return result;
    });
  }

  /** Keeps the refused rows of a file of which nothing was stored, and says why, in one transaction. */
  async fail(importId: number, failure: string): Promise<void> {
    await write(this.db, () => {
      this.keepRefused(importId);
      this.db.$client
        .prepare(
          `UPDATE import SET state = 'failed', failure = ?, rows_read = ?, rows_refused = ?, rows_stored = 0, finished_at = ? WHERE id = ?`,
        )
        .run(failure, this.counts.read, this.counts.refused, timestamp(), importId);
    });
  }

  private resolveIds(siteId: number): void {
    const { $client: client } = this.db;
    client
      .prepare('INSERT OR IGNORE INTO page (site_id, address) SELECT ?, address FROM stage_page')
      .run(siteId);
    client
      .prepare(
        'UPDATE stage_page SET page_id = (SELECT p.id FROM page p WHERE p.site_id = ? AND p.address = stage_page.address)',
      )
      .run(siteId);
    client.prepare('INSERT OR IGNORE INTO query (site_id, text) SELECT ?, text FROM stage_query').run(siteId);
    client
      .prepare(
        'UPDATE stage_query SET query_id = (SELECT q.id FROM query q WHERE q.site_id = ? AND q.text = stage_query.text)',
      )
      .run(siteId);
  }

  /** Stores the facts and gives the number of keys that were there before and are replaced. */
  private storeFacts(grain: Grain): number {
    const { $client: client } = this.db;
    const byQuery = grain === 'page_query_day';
    const key = byQuery ? 'page_id, query_id, day, device, country' : 'page_id, day, device, country';
    const joins = `JOIN stage_page p ON p.id = s.page ${byQuery ? 'JOIN stage_query q ON q.id = s.query' : ''}`;
    const same = key
      .split(', ')
      .map((column) => `f.${column} = k.${column}`)
      .join(' AND ');
    const replaced = client
      .prepare<[], { n: number }>(
        `SELECT count(*) AS n FROM (SELECT DISTINCT ${key} FROM stage_row s ${joins}) k
         WHERE EXISTS (SELECT 1 FROM ${grain} f WHERE ${same})`,
      )
      .get();
    client.exec(
      `INSERT INTO ${grain} (${key}, clicks, impressions, position_sum)
       SELECT ${key}, sum(clicks), sum(impressions),
              CASE WHEN count(position_sum) = count(*) THEN sum(position_sum) END
       FROM stage_row s ${joins} WHERE true GROUP BY ${key} ORDER BY ${key}
       ON CONFLICT (${key}) DO UPDATE SET
         clicks = excluded.clicks, impressions = excluded.impressions, position_sum = excluded.position_sum`,
    );
    return replaced?.n ?? 0;
  }

  /** Brings what is derived from the facts up to date for the pages and days of this file. */
  private derive(siteId: number, grain: Grain): void {
    const { $client: client } = this.db;
    client.exec(
      'INSERT OR IGNORE INTO touched SELECT p.page_id, s.day FROM stage_row s JOIN stage_page p ON p.id = s.page',
    );
    deriveTotals(client);
    coverDays(client, siteId, grain === 'page_query_day');
  }

  private keepRefused(importId: number): void {
    this.db.$client
      .prepare('INSERT OR REPLACE INTO import_problem SELECT ?, line, message, cells FROM stage_refused')
      .run(importId);
  }

  private finish(importId: number, grain: string, result: MergeResult): void {
    const { read, accepted, repeated, refused } = this.counts;
    this.db.$client
      .prepare(
        `UPDATE import SET state = 'done', grain = ?, bytes_read = bytes_total, rows_read = ?, rows_stored = ?,
           rows_repeated = ?, rows_refused = ?, rows_replaced = ?, first_day = ?, last_day = ?, finished_at = ?
         WHERE id = ?`,
      )
      .run(
        grain,
        read,
        accepted,
        repeated,
        refused,
        result.replaced,
        result.firstDay,
        result.lastDay,
        timestamp(),
        importId,
      );
  }
}

function idOf(
  known: Map<string, number>,
  text: string,
  insert: { run: (...values: unknown[]) => unknown },
): number {
  const found = known.get(text);
  if (found !== undefined) return found;
  const id = known.size + 1;
  known.set(text, id);
  insert.run(id, text);
  return id;
}
