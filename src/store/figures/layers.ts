import { addDays, type Day } from '../../core/calendar/day';
import type { Span } from '../../core/calendar/span';
import { GRAINS, type Grain } from '../../core/facts/grains';
import { countReplaced, mergeLayers, unpackLayer, type Layered } from '../../core/facts/layers';
import { someRows } from '../../core/facts/facts';
import { columnsUsedAgain, DAYS_A_PIECE, firstDayOfPiece, pieceOf, unpackFacts } from '../../core/facts/pack';
import { prepared, type Db } from '../database';
import { coveredDaysIn } from './coverage';
import { shown } from './figuresSnapshot';

/** The first day of a piece; of a period, its first day. */
export function baseDay(grain: Grain, piece: number): number {
  return GRAINS[grain].dated ? firstDayOfPiece(piece) : piece;
}

type Row = [address: number, piece: number, bytes: Buffer, layer: number, takenOn: number];

/** All days there can be. */
export const ALWAYS: Span = { firstDay: 0 as Day, lastDay: 1_000_000 as Day };

/** Valid rows of a URL within a piece, from all files that count. Valid until the next is read. */
export type PieceFacts = { readonly addressId: number; readonly piece: number } & Layered;

const COLUMNS = 'f.address_id, f.piece, f.bytes, i.layer, i.taken_on';

function* merged(rows: readonly Row[], grain: Grain, again = columnsUsedAgain()): Generator<PieceFacts> {
  for (let from = 0; from < rows.length;) {
    const [addressId, piece] = rows[from]!;
    let to = from;
    while (to < rows.length && rows[to]![0] === addressId && rows[to]![1] === piece) to++;
    const layers = rows
      .slice(from, to)
      .sort((a, b) => a[3] - b[3])
      // The same days brought in again are usually the same to the last bit.
      .filter(([, , bytes], i, all) => i + 1 === all.length || !bytes.equals(all[i + 1]![2]))
      .map(([, , bytes, , takenOn], _, all) =>
        unpackLayer(bytes, {
          ...{ firstDay: baseDay(grain, piece), values: GRAINS[grain].values.length, vintage: takenOn },
          ...(all.length === 1 ? { columns: again } : {}),
        }),
      );
    yield { addressId, piece, ...mergeLayers(layers)! };
    from = to;
  }
}

/**
 * Valid rows of a page (all its URLs) by piece, within the pieces of a span. Callers that read many
 * pages pass the columns to read into.
 */
export function pageFacts(
  db: Db,
  pageId: number,
  grain: Grain,
  span: Span,
  columns?: ReturnType<typeof columnsUsedAgain>,
): Generator<PieceFacts> {
  return factsInPieces(db, pageId, grain, pieceOf(span.firstDay), pieceOf(span.lastDay), columns);
}

/**
 * Pseudo page id for query rows without a page. They count only on days without rows by page and
 * query, which would otherwise be counted twice.
 */
export function pagelessId(siteId: number): number {
  return -siteId;
}

/** Whether a site has query rows without a page. */
export function hasPagelessRows(db: Db, siteId: number): boolean {
  const found = prepared<[number], number>(
    shown(db),
    "SELECT 1 FROM import WHERE site_id = ? AND state = 'done' AND grain = 'query_day' LIMIT 1",
  ).pluck();
  return found.get(siteId) === 1;
}

function* pagelessFacts(
  db: Db,
  siteId: number,
  firstPiece: number,
  lastPiece: number,
): Generator<PieceFacts> {
  for (const piece of siteFacts(db, siteId, 'query_day', firstPiece, lastPiece)) {
    const firstDay = firstDayOfPiece(piece.piece) as Day;
    const known = coveredDaysIn(db, siteId, { firstDay, lastDay: addDays(firstDay, DAYS_A_PIECE - 1) }, true);
    const { facts, vintage } = piece;
    const rows = Array.from(facts.day.subarray(0, facts.rows).keys()).filter(
      (row) => !known.has(facts.day[row]! as Day),
    );
    yield {
      ...{ addressId: piece.addressId, piece: piece.piece, facts: someRows(facts, rows) },
      vintage: Int32Array.from(rows, (row) => vintage[row]!),
    };
  }
}

/** The current rows of a page within a range of pieces. Ids below 0: see `pagelessId`. */
export function* factsInPieces(
  db: Db,
  pageId: number,
  grain: Grain,
  firstPiece: number,
  lastPiece: number,
  columns?: ReturnType<typeof columnsUsedAgain>,
): Generator<PieceFacts> {
  if (pageId < 0) {
    if (grain === 'page_query_day') yield* pagelessFacts(db, -pageId, firstPiece, lastPiece);
    return;
  }
  const rows = prepared<number[], Row>(
    shown(db),
    `SELECT ${COLUMNS}
     FROM address a CROSS JOIN figures f ON f.address_id = a.id JOIN import i ON i.id = f.import_id
     WHERE a.page_id = ? AND f.grain = ? AND f.piece BETWEEN ? AND ? AND i.state = 'done'
     ORDER BY f.address_id, f.piece`,
  )
    .raw()
    .all(pageId, GRAINS[grain].code, firstPiece, lastPiece);
  yield* merged(rows, grain, columns);
}

/** How the rows of a new layer meet what stands of an address within one piece. */
export function replacedBy(
  db: Db,
  addressId: number,
  grain: Grain,
  piece: number,
  { rows, bytes }: { rows: number; bytes: Uint8Array },
): { replaced: number; changed: number } {
  const layers = layersOf(db, addressId, grain, piece);
  if (layers.length === 0) return { replaced: 0, changed: 0 };
  if (layers.length === 1 && layers[0]![2].equals(bytes)) return { replaced: rows, changed: 0 };
  const facts = unpackFacts(bytes, baseDay(grain, piece), GRAINS[grain].values.length);
  const [standing] = merged(layers, grain);
  return countReplaced(standing!.facts, facts);
}

function layersOf(db: Db, addressId: number, grain: Grain, piece: number): Row[] {
  return prepared<number[], Row>(
    shown(db),
    `SELECT ${COLUMNS} FROM figures f JOIN import i ON i.id = f.import_id
     WHERE f.address_id = ? AND f.grain = ? AND f.piece = ? AND i.state = 'done'`,
  )
    .raw()
    .all(addressId, GRAINS[grain].code, piece);
}

/** What stands of every address of a site, piece by piece. */
export function standingFacts(db: Db, siteId: number, grain: Grain): Generator<PieceFacts> {
  return siteFacts(db, siteId, grain, Number.MIN_SAFE_INTEGER, Number.MAX_SAFE_INTEGER);
}

/** Valid rows of every URL of a site, also without a page, within a range of pieces. */
export function* siteFacts(
  db: Db,
  siteId: number,
  grain: Grain,
  firstPiece: number,
  lastPiece: number,
): Generator<PieceFacts> {
  const pieces = prepared<number[], [number, number]>(
    shown(db),
    `SELECT DISTINCT f.address_id, f.piece FROM address a JOIN figures f ON f.address_id = a.id
     JOIN import i ON i.id = f.import_id
     WHERE a.site_id = ? AND f.grain = ? AND f.piece BETWEEN ? AND ? AND i.state = 'done'
     ORDER BY f.address_id, f.piece`,
  )
    .raw()
    .all(siteId, GRAINS[grain].code, firstPiece, lastPiece);
  for (const [addressId, piece] of pieces) yield* merged(layersOf(db, addressId, grain, piece), grain);
}
