import { setTimeout as pause } from 'node:timers/promises';
import { GRAIN_KEYS, GRAINS, type Grain } from '../../core/facts/grains';
import { mergeLayers, packLayer, unpackLayer } from '../../core/facts/layers';
import type { Site } from '../../core/model/site';
import { prepared, type Db } from '../database';
import { timestamp, writeFigures } from '../write';
import { baseDay } from './layers';

/*
 * A daily feed that resends recent days adds a thin layer over most of what is there. Layers
 * replaced long ago are merged with their successors: valid rows stay, to the last bit, rows below
 * them go, and the files can no longer be undone. Each step is a transaction, so the process may
 * die between any two.
 */

/** Pieces merged per transaction, and the pause after it that lets others run. */
const PIECES_AT_ONCE = 200;
const PAUSE_MS = 10;
const DAY_MS = 24 * 3600 * 1000;

type Place = { addressId: number; grain: number; piece: number };
type LayerRow = {
  id: number;
  importId: number;
  bytes: Buffer;
  takenOn: number;
  /** Whether it counts, and for long enough. */
  old: number;
};

/** Merges the old layers of a site, as of an instant. Returns the number of pieces merged. */
export async function compactLayers(db: Db, site: Site, now: number): Promise<number> {
  const cutoff = new Date(now - site.undoDays * DAY_MS).toISOString();
  let folded = 0;
  let after: Place = { addressId: 0, grain: 0, piece: -1 };
  for (;;) {
    const places = placesAfter(db, site.id, cutoff, after);
    if (places.length === 0) break;
    await writeFigures(db, () => {
      for (const place of places) if (foldPlace(db, place, cutoff)) folded++;
    });
    after = places.at(-1)!;
    await pause(PAUSE_MS);
  }
  if (folded > 0) await giveBack(db);
  return folded;
}

/** Addresses and pieces with several old layers, the next ones in order. */
function placesAfter(db: Db, siteId: number, cutoff: string, { addressId, grain, piece }: Place): Place[] {
  return prepared<(number | string)[], Place>(
    db,
    `SELECT f.address_id AS addressId, f.grain, f.piece
     FROM address a JOIN figures f ON f.address_id = a.id JOIN import i ON i.id = f.import_id
     WHERE a.site_id = ? AND a.id >= ? AND (f.address_id, f.grain, f.piece) > (?, ?, ?)
       AND i.state = 'done' AND i.finished_at < ?
     GROUP BY f.address_id, f.grain, f.piece HAVING count(*) > 1
     ORDER BY f.address_id, f.grain, f.piece LIMIT ${PIECES_AT_ONCE}`,
  ).all(siteId, addressId, addressId, grain, piece, cutoff);
}

/**
 * Merges the old layers at the bottom of a place into the uppermost of them. An undone or recent
 * layer keeps those above it apart, since it may come back or go. Must run in a transaction.
 */
function foldPlace(db: Db, { addressId, grain: code, piece }: Place, cutoff: string): boolean {
  const rows = prepared<(number | string)[], LayerRow>(
    db,
    `SELECT f.id, f.import_id AS importId, f.bytes, i.taken_on AS takenOn,
       i.state = 'done' AND i.finished_at < ? AS old
     FROM figures f JOIN import i ON i.id = f.import_id
     WHERE f.address_id = ? AND f.grain = ? AND f.piece = ? AND i.state IN ('done', 'undone') ORDER BY i.layer`,
  ).all(cutoff, addressId, code, piece);
  const young = rows.findIndex(({ old }) => old !== 1);
  const bottom = young === -1 ? rows : rows.slice(0, young);
  if (bottom.length < 2) return false;
  const grain = grainOf(code);
  const base = baseDay(grain, piece);
  const merged = mergeLayers(
    bottom.map(({ bytes, takenOn }) =>
      unpackLayer(bytes, { firstDay: base, values: GRAINS[grain].values.length, vintage: takenOn }),
    ),
  )!;
  const drop = prepared<[number], never>(db, 'DELETE FROM figures WHERE id = ?');
  const mark = prepared(db, 'UPDATE import SET folded_at = ? WHERE id = ? AND folded_at IS NULL');
  for (const { id } of bottom.slice(0, -1)) drop.run(id);
  for (const { importId } of bottom) mark.run(timestamp(), importId);
  prepared(db, 'UPDATE figures SET rows = ?, bytes = ? WHERE id = ?').run(
    merged.facts.rows,
    packLayer(merged, base),
    bottom.at(-1)!.id,
  );
  return true;
}

function grainOf(code: number): Grain {
  return GRAIN_KEYS.find((grain) => GRAINS[grain].code === code)!;
}

/** Pages of the file that are given back at once. */
const PAGES_AT_ONCE = 2000;

/** Gives the room that was set free back to the disk, a part at a time. */
async function giveBack(db: Db): Promise<void> {
  const free = () => db.$client.pragma('freelist_count', { simple: true }) as number;
  for (let left = free(); left > 0;) {
    await writeFigures(db, () => db.$client.pragma(`incremental_vacuum(${PAGES_AT_ONCE})`));
    const now = free();
    // A file that was made before it could give parts back keeps them, and fills them again.
    if (now >= left) return;
    left = now;
    await pause(PAUSE_MS);
  }
}
