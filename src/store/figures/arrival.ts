import type { Day } from '../../core/calendar/day';
import type { Span } from '../../core/calendar/span';
import { GRAINS, type Grain } from '../../core/facts/grains';
import type { AddressedRows, LaidOut } from '../../core/facts/sortAndPack';
import type { Site } from '../../core/model/site';
import { prepared, type Db } from '../database';
import { piecesOfPages } from './derived';
import { addressIds, labelIds, queryIds } from './dictionary';
import { replacedBy } from './layers';
import { settlePages } from '../addresses/pageKeys';
import { deriveSeries } from './series';
import { timestamp, writeFigures } from '../write';

/** Refused rows kept whole for saving; of a hopeless file with more, the rest are only counted. */
export const MOST_REFUSED_KEPT = 200_000;

/** The texts that arriving rows name; entry 0 of queries and labels stands for none. */
export type Names = {
  readonly addresses: readonly string[];
  readonly queries: readonly string[];
  readonly labels: readonly string[];
};

/** What a row states of its page or query, which it names by its place in the list. */
export type ArrivingAttribute = { readonly subject: number; readonly name: string; readonly value: string };

export type RefusedRow = {
  readonly line: number;
  readonly message: string;
  readonly cells: readonly string[];
};

export type RowCounts = { readonly read: number; readonly refused: number; readonly leftOut: number };

/**
 * Stores the rows of a file. They are written in several transactions, so that nobody waits long,
 * but count only once `finish` says so in one. If the process dies before, `clearUnfinished`
 * removes rows that nobody has seen.
 */
export class ImportWriter {
  private ids: { addresses: Int32Array; queries: Int32Array; labels: Int32Array } | null = null;
  private readonly days = new Map<number, number>();
  private repeated = 0;
  private replaced = 0;
  private changed = 0;

  constructor(
    private readonly db: Db,
    private readonly importId: number,
    private readonly site: Site,
    private readonly grain: Grain,
    /**
     * The days that all rows hold for, where they have no dates of their own; 'weeks' where each
     * names its week.
     */
    private readonly period: Span | 'weeks' | null,
  ) {}

  /** Gives numbers to the texts that the rows name. Comes before any rows. */
  async name({ addresses, queries, labels }: Names): Promise<void> {
    this.ids = await writeFigures(this.db, (db) => {
      const floor = (table: string) =>
        prepared<[], number>(db, `SELECT coalesce(max(id), 0) FROM ${table}`).pluck().get();
      prepared(db, 'UPDATE import SET address_floor = ?, query_floor = ? WHERE id = ?').run(
        floor('address'),
        floor('query'),
        this.importId,
      );
      return {
        addresses: addressIds(db, this.site.id, addresses),
        queries: afterNone(queryIds(db, this.site.id, queries.slice(1))),
        labels: afterNone(labelIds(db, labels.slice(1))),
      };
    });
  }

  /** Puts the numbers of the database in place of those that rows name queries and labels by. */
  number(rows: AddressedRows): void {
    const { queries, labels } = this.ids!;
    for (let i = 0; i < rows.rows; i++) {
      rows.query[i] = queries[rows.query[i]!]!;
      rows.country[i] = labels[rows.country[i]!]!;
    }
  }

  /** Stores some pieces, in one transaction; they name addresses by their place in the list. */
  async store(laid: readonly LaidOut[]): Promise<void> {
    await writeFigures(this.db, () => {
      for (const piece of laid) this.storePiece(piece);
    });
  }

  private storePiece({ address, piece, rows, bytes, repeated, days }: LaidOut): void {
    const addressId = this.ids!.addresses[address]!;
    this.repeated += repeated;
    for (const one of days) this.days.set(one.day, (this.days.get(one.day) ?? 0) + one.rows);
    const { replaced, changed } = replacedBy(this.db, addressId, this.grain, piece, { rows, bytes });
    this.replaced += replaced;
    this.changed += changed;
    prepared(
      this.db,
      'INSERT INTO figures (address_id, grain, piece, import_id, rows, bytes) VALUES (?, ?, ?, ?, ?, ?)',
    ).run(addressId, GRAINS[this.grain].code, piece, this.importId, rows, bytes);
  }

  /** Stores what the rows of a file state of pages or queries, the last of what is stated twice. */
  async state(attributes: readonly ArrivingAttribute[]): Promise<void> {
    const subject = this.grain === 'page_attribute' ? 'page' : 'query';
    const { addresses, queries } = this.ids!;
    const ids = subject === 'page' ? addresses : queries;
    await writeFigures(this.db, (db) => {
      const standing = prepared<[string, number, string], string>(
        db,
        `SELECT t.value FROM attribute t JOIN import i ON i.id = t.import_id
         WHERE t.subject = ? AND t.subject_id = ? AND t.name = ? AND i.state = 'done' ORDER BY i.layer DESC LIMIT 1`,
      ).pluck();
      const own = prepared<[string, number, string, number], number>(
        db,
        'SELECT 1 FROM attribute WHERE subject = ? AND subject_id = ? AND name = ? AND import_id = ?',
      ).pluck();
      const set = prepared(db, 'INSERT OR REPLACE INTO attribute VALUES (?, ?, ?, ?, ?)');
      for (const { subject: at, name, value } of attributes) {
        const id = ids[at]!;
        if (own.get(subject, id, name, this.importId) === 1) this.repeated++;
        else {
          const before = standing.get(subject, id, name);
          if (before !== undefined) this.replaced++;
          if (before !== undefined && before !== value) this.changed++;
        }
        set.run(subject, id, name, this.importId, value);
      }
    });
  }

  /** Makes everything count and marks the import as done, in one transaction. */
  async finish(counts: RowCounts, refused: readonly RefusedRow[]): Promise<void> {
    await writeFigures(this.db, (db) => {
      const addDay = prepared(db, 'INSERT INTO import_day (import_id, day, rows) VALUES (?, ?, ?)');
      // Of weeks the last days are kept: which weeks came can be told from them.
      if (GRAINS[this.grain].dated || this.period === 'weeks') {
        for (const [day, rows] of this.days) addDay.run(this.importId, day, rows);
      }
      keepRefused(db, this.importId, refused);
      const days = [...this.days.keys()];
      const least = (list: number[]) => list.reduce((a, b) => Math.min(a, b), Infinity);
      const ofDays = (): Span => ({
        firstDay: (least(days) - (this.period === 'weeks' ? 6 : 0)) as Day,
        lastDay: -least(days.map((day) => -day)) as Day,
      });
      const stated = this.period === 'weeks' ? null : this.period;
      const covered = stated ?? (days.length === 0 ? null : ofDays());
      prepared(
        db,
        `UPDATE import SET state = 'done', grain = $grain, bytes_read = bytes_total, rows_read = $read,
           rows_stored = $stored, rows_repeated = $repeated, rows_refused = $refused, rows_left_out = $leftOut, rows_replaced = $replaced,
           rows_changed = $changed, first_day = $firstDay, last_day = $lastDay, finished_at = $at,
           layer = (SELECT coalesce(max(layer), 0) + 1 FROM import)
         WHERE id = $id`,
      ).run({
        grain: this.grain,
        ...counts,
        stored: counts.read - counts.refused - counts.leftOut - this.repeated,
        repeated: this.repeated,
        replaced: this.replaced,
        changed: this.changed,
        firstDay: covered?.firstDay ?? null,
        lastDay: covered?.lastDay ?? null,
        at: timestamp(),
        id: this.importId,
      });
      deriveAround(db, this.site, this.importId);
    });
  }
}

/** Numbers of texts, with that of none before them. */
function afterNone(ids: Int32Array): Int32Array {
  const all = new Int32Array(ids.length + 1);
  all.set(ids, 1);
  return all;
}

/** Updates derived data of the figures of an import, after it began or ceased to count. */
export function deriveAround(db: Db, site: Site, importId: number): void {
  const addresses = prepared<[number, number], number>(
    db,
    `SELECT address_id FROM figures WHERE import_id = ?
     UNION SELECT subject_id FROM attribute WHERE import_id = ? AND subject = 'page'`,
  )
    .pluck()
    .all(importId, importId);
  // Before addresses lose their pages: those pages have days less afterwards.
  const before = piecesOfPages(db, 'f.import_id = ?', importId);
  settlePages(db, site, addresses);
  const pieces = piecesOfPages(db, 'f.import_id = ?', importId);
  const exists = prepared<[number], number>(db, 'SELECT 1 FROM page WHERE id = ?').pluck();
  for (const [page, touched] of before) {
    if (exists.get(page) === 1) pieces.set(page, new Set([...touched, ...(pieces.get(page) ?? [])]));
  }
  deriveSeries(db, pieces);
}

function keepRefused(db: Db, importId: number, refused: readonly RefusedRow[]): void {
  const keep = prepared(
    db,
    'INSERT OR REPLACE INTO import_problem (import_id, line, message, cells) VALUES (?, ?, ?, ?)',
  );
  for (const { line, message, cells } of refused) keep.run(importId, line, message, JSON.stringify(cells));
}

/** Keeps the refused rows of a file that was stored in no part, and why, in one transaction. */
export async function failImport(
  db: Db,
  importId: number,
  failure: string,
  counts: RowCounts,
  refused: readonly RefusedRow[],
): Promise<void> {
  await writeFigures(db, () => {
    clearRows(db, importId);
    keepRefused(db, importId, refused);
    prepared(
      db,
      `UPDATE import SET state = 'failed', failure = ?, rows_read = ?, rows_refused = ?, rows_stored = 0, finished_at = ?
       WHERE id = ?`,
    ).run(failure, counts.read, counts.refused, timestamp(), importId);
  });
}

/**
 * Removes what an unfinished import stored, as if it had never begun. Must run in a transaction.
 */
function clearRows(db: Db, importId: number): void {
  prepared(db, 'DELETE FROM figures WHERE import_id = ?').run(importId);
  prepared(db, 'DELETE FROM attribute WHERE import_id = ?').run(importId);
  prepared(db, 'DELETE FROM import_problem WHERE import_id = ?').run(importId);
  const floors = prepared<[number], { a: number | null; q: number | null; site: number }>(
    db,
    'SELECT address_floor AS a, query_floor AS q, site_id AS site FROM import WHERE id = ?',
  ).get(importId);
  if (floors?.a == null || floors.q == null) return;
  // Only one import runs at a time: what came after its start and belongs to no figures is its own.
  prepared(
    db,
    `DELETE FROM address WHERE site_id = ? AND id > ? AND page_id IS NULL AND joined_to IS NULL
       AND NOT EXISTS (SELECT 1 FROM figures f WHERE f.address_id = address.id)`,
  ).run(floors.site, floors.a);
  prepared(db, 'DELETE FROM query WHERE site_id = ? AND id > ?').run(floors.site, floors.q);
  prepared(db, 'UPDATE import SET address_floor = NULL, query_floor = NULL WHERE id = ?').run(importId);
}

/** At start: removes what imports of a stopped process stored, and queues them again. */
export async function clearUnfinished(db: Db): Promise<void> {
  await writeFigures(db, () => {
    const running = prepared<[], number>(db, "SELECT id FROM import WHERE state = 'running'").pluck().all();
    for (const id of running) {
      clearRows(db, id);
      prepared(db, "UPDATE import SET state = 'queued', rows_read = 0, bytes_read = 0 WHERE id = ?").run(id);
    }
  });
}
