import type { Day } from '../core/calendar/day';
import { emptyFacts } from '../core/facts/facts';
import type { Grain } from '../core/facts/grains';
import { layOut, type AddressedRows } from '../core/facts/layOut';
import { Arrival } from './arrival';
import { prepared, type Db } from './database';
import { settleNamedPages, settlePages } from './pageKeys';
import { listSites } from './sites';
import { timestamp, write } from './write';

/*
 * Earlier versions kept figures one row each, in tables that the migrations leave in place. They are carried over once,
 * as if a file had brought them, and the tables are dropped; in a new database they are empty.
 */

const OLD_TABLES = ['page_day', 'page_query_day'] as const;

function exists(db: Db, table: string): boolean {
  const sql = "SELECT 1 FROM sqlite_master WHERE type = 'table' AND name = ?";
  return prepared<[string], number>(db, sql).pluck().get(table) === 1;
}

/** Whether figures are still kept as an earlier version of the program kept them. */
export function holdsOldFigures(db: Db): boolean {
  const holdsRows = (table: string) =>
    prepared<[], number>(db, `SELECT EXISTS (SELECT 1 FROM ${table})`).pluck().get() === 1;
  return OLD_TABLES.some((table) => exists(db, table) && holdsRows(table));
}

type OldRow = {
  query: number;
  day: number;
  device: number;
  country: string;
  clicks: number;
  impressions: number;
  positionSum: number | null;
};

/** Carries over the figures that an earlier version kept. Stopped half-way, it can be begun again. */
export async function carryOldFigures(db: Db): Promise<void> {
  if (!OLD_TABLES.some((table) => exists(db, table))) return;
  // Pages stay in their places, and with their numbers, until the figures of all kinds are carried over.
  await write(db, () =>
    db.$client.exec(
      'INSERT OR IGNORE INTO address (site_id, text, page_id) SELECT site_id, address, id FROM page',
    ),
  );
  for (const grain of OLD_TABLES) {
    if (!exists(db, grain)) continue;
    for (const site of listSites(db)) await carry(db, site.id, grain);
    await write(db, () => db.$client.exec(`DROP TABLE ${grain}`));
  }
  await write(db, () => {
    for (const site of listSites(db)) {
      settlePages(db, site);
      settleNamedPages(db, site);
    }
  });
}

async function carry(db: Db, siteId: number, grain: Grain & (typeof OLD_TABLES)[number]): Promise<void> {
  const site = listSites(db).find(({ id }) => id === siteId)!;
  const pages = prepared<[number], { id: number; address: string }>(
    db,
    `SELECT id, address FROM page p WHERE site_id = ? AND EXISTS (SELECT 1 FROM ${grain} f WHERE f.page_id = p.id)`,
  ).all(siteId);
  const name = 'figures of an earlier version';
  const carried = prepared<[number, string, string], number>(
    db,
    "SELECT 1 FROM import WHERE site_id = ? AND file_name = ? AND grain = ? AND state = 'done'",
  ).pluck();
  if (pages.length === 0 || carried.get(siteId, name, grain) === 1) return;
  const importId = await write(db, () => {
    const taken = prepared<[number], number | null>(db, 'SELECT max(taken_on) FROM import WHERE site_id = ?');
    return Number(
      prepared(
        db,
        `INSERT INTO import (site_id, file_name, state, bytes_total, taken_on, created_at, started_at)
         VALUES (?, ?, 'failed', 0, ?, ?, ?)`,
      ).run(siteId, name, taken.pluck().get(siteId) ?? 0, timestamp(), timestamp()).lastInsertRowid,
    );
  });
  const byQuery = grain === 'page_query_day';
  const queries = prepared<[number], string>(db, 'SELECT text FROM query WHERE site_id = ? ORDER BY id');
  const queryIds = prepared<[number], number>(db, 'SELECT id FROM query WHERE site_id = ? ORDER BY id');
  const place = new Map(
    queryIds
      .pluck()
      .all(siteId)
      .map((id, i) => [id, i + 1]),
  );
  const countries = prepared<[], string>(db, `SELECT DISTINCT country FROM ${grain} WHERE country <> ''`);
  const labels = ['', ...countries.pluck().all()];
  const labelOf = new Map(labels.map((text, i) => [text, i]));
  const arrival = new Arrival(db, importId, site, grain, null);
  await arrival.name({
    addresses: pages.map(({ address }) => address),
    queries: ['', ...(byQuery ? queries.pluck().all(siteId) : [])],
    labels,
  });
  const ofPage = prepared<[number], OldRow>(
    db,
    `SELECT ${byQuery ? 'query_id' : '0'} AS query, day, device, country, clicks, impressions,
            position_sum AS positionSum FROM ${grain} WHERE page_id = ?`,
  );
  let read = 0;
  for (const [at, { id }] of pages.entries()) {
    const rows = ofPage.all(id);
    read += rows.length;
    const raw: AddressedRows = {
      ...emptyFacts(rows.length, 3),
      part: new Uint32Array(rows.length),
      address: new Uint32Array(rows.length).fill(at),
    };
    rows.forEach((row, i) => {
      raw.query[i] = byQuery ? place.get(row.query)! : 0;
      raw.day[i] = row.day as Day;
      raw.device[i] = row.device;
      raw.country[i] = labelOf.get(row.country)!;
      [row.clicks, row.impressions, row.positionSum ?? NaN].forEach(
        (value, v) => (raw.values[v]![i] = value),
      );
    });
    arrival.number(raw);
    await arrival.store(layOut(raw, null));
  }
  await arrival.finish({ read, refused: 0 }, []);
}
