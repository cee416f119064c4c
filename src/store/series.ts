import type Database from 'better-sqlite3';
import type { Day } from '../core/calendar/day';
import type { Series } from '../core/history/history';
import { prepared, type Db } from './database';

/*
 * The totals of a page over all its days in one piece (see the schema). An import writes over the days it touched; the
 * rest of the piece stays as it was.
 */

/** The daily totals of one page, or of one device on it. */
type Piece = {
  firstDay: number;
  days: number;
  positionSum: Float64Array;
  clicks: Int32Array;
  impressions: Int32Array;
};

const BYTES_A_DAY = 16;

function emptyPiece(firstDay: number, days: number): Piece {
  return pieceIn(new ArrayBuffer(days * BYTES_A_DAY), firstDay, days);
}

function pieceIn(memory: ArrayBuffer, firstDay: number, days: number): Piece {
  return {
    firstDay,
    days,
    positionSum: new Float64Array(memory, 0, days),
    clicks: new Int32Array(memory, 8 * days, days),
    impressions: new Int32Array(memory, 12 * days, days),
  };
}

function fromBlob(figures: Buffer, firstDay: number, days: number): Piece {
  // A copy, since a view of 64-bit floats has to begin at a multiple of eight bytes.
  const { buffer, byteOffset, byteLength } = figures;
  return pieceIn(buffer.slice(byteOffset, byteOffset + byteLength) as ArrayBuffer, firstDay, days);
}

function toBlob({ positionSum }: Piece): Buffer {
  return Buffer.from(positionSum.buffer);
}

/** A piece that reaches over more days, with what an earlier one held. */
function widened(piece: Piece | null, firstDay: number, lastDay: number): Piece {
  if (piece && piece.firstDay <= firstDay && piece.firstDay + piece.days - 1 >= lastDay) return piece;
  const first = Math.min(firstDay, piece?.firstDay ?? firstDay);
  const last = Math.max(lastDay, piece ? piece.firstDay + piece.days - 1 : lastDay);
  const wide = emptyPiece(first, last - first + 1);
  if (piece) {
    const at = piece.firstDay - first;
    wide.positionSum.set(piece.positionSum, at);
    wide.clicks.set(piece.clicks, at);
    wide.impressions.set(piece.impressions, at);
  }
  return wide;
}

type TotalRow = [
  device: number,
  day: number,
  clicks: number,
  impressions: number,
  positionSum: number | null,
];

type KnownRow = [device: number, firstDay: number, days: number, figures: Buffer];

/** Daily totals of a page between two days by device, 0 for the whole, in the order of devices. */
const TOTALS = `
  SELECT 0, day, clicks, impressions, position_sum FROM page_total_day
  WHERE page_id = $page AND day BETWEEN $first AND $last
  UNION ALL
  SELECT device, day, sum(clicks), sum(impressions),
         CASE WHEN count(position_sum) = count(*) THEN sum(position_sum) END
  FROM (
    SELECT f.*, (country <> '') AS split, min(country <> '') OVER (PARTITION BY day, device) AS least
    FROM page_day f WHERE page_id = $page AND device <> 0 AND day BETWEEN $first AND $last
  )
  WHERE split = least GROUP BY device, day
  ORDER BY 1`;

/** Brings the series of the pages and days in the temporary table `touched` up to date. Must run in a transaction. */
export function deriveSeries(client: Database.Database): void {
  const totals = client.prepare(TOTALS).raw();
  const known = client
    .prepare('SELECT device, first_day, days, figures FROM page_series WHERE page_id = ?')
    .raw();
  const store = client.prepare(
    'INSERT OR REPLACE INTO page_series (page_id, device, first_day, days, figures) VALUES (?, ?, ?, ?, ?)',
  );
  const pages = client
    .prepare('SELECT page_id, min(day), max(day) FROM touched GROUP BY page_id')
    .raw()
    .all() as [number, number, number][];
  for (const [page, first, last] of pages) {
    const pieces = new Map<number, Piece>();
    for (const [device, firstDay, days, figures] of known.all(page) as KnownRow[]) {
      const piece = fromBlob(figures, firstDay, days);
      forget(piece, first, last);
      pieces.set(device, piece);
    }
    const byDevice = new Map<number, TotalRow[]>();
    for (const row of totals.all({ page, first, last }) as TotalRow[]) {
      const rows = byDevice.get(row[0]);
      if (rows) rows.push(row);
      else byDevice.set(row[0], [row]);
    }
    for (const [device, rows] of byDevice) {
      const days = rows.map((row) => row[1]);
      const piece = widened(pieces.get(device) ?? null, Math.min(...days), Math.max(...days));
      for (const [, day, clicks, impressions, positionSum] of rows) {
        const at = day - piece.firstDay;
        piece.clicks[at] = clicks;
        piece.impressions[at] = impressions;
        piece.positionSum[at] = positionSum ?? NaN;
      }
      pieces.set(device, piece);
    }
    for (const [device, piece] of pieces) store.run(page, device, piece.firstDay, piece.days, toBlob(piece));
  }
}

/** Sets the days from the first to the last to nought, as far as the piece has them. */
function forget(piece: Piece, firstDay: number, lastDay: number): void {
  const from = Math.max(0, firstDay - piece.firstDay);
  const to = Math.max(0, lastDay - piece.firstDay + 1);
  piece.positionSum.fill(0, from, to);
  piece.clicks.fill(0, from, to);
  piece.impressions.fill(0, from, to);
}

/** The series of all pages of a site, of one device or (0) of all together, in the order of page ids. */
export function siteSeries(db: Db, siteId: number, device = 0): Series[] {
  const statement = prepared<[number, number], [number, number, number, Buffer]>(
    db,
    `SELECT s.page_id, s.first_day, s.days, s.figures
     FROM page p CROSS JOIN page_series s ON s.page_id = p.id WHERE p.site_id = ? AND s.device = ?`,
  ).raw();
  const series: Series[] = [];
  for (const [id, firstDay, days, figures] of statement.iterate(siteId, device)) {
    const { positionSum, clicks, impressions } = fromBlob(figures, firstDay, days);
    series.push({ id, firstDay: firstDay as Day, positionSum, clicks, impressions });
  }
  return series;
}

/** Whether totals were derived by an earlier version of the program, which did not keep series of them. */
export function seriesAreMissing(db: Db): boolean {
  const any = (table: string) =>
    db.$client.prepare<[], { n: number }>(`SELECT EXISTS (SELECT 1 FROM ${table}) AS n`).get()?.n === 1;
  return any('page_total_day') && !any('page_series');
}
