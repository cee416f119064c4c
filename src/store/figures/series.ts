import type { Day } from '../../core/calendar/day';
import type { Span } from '../../core/calendar/span';
import type { Layered } from '../../core/facts/layers';
import { DAYS_A_PIECE, firstDayOfPiece } from '../../core/facts/pack';
import { standingDeviceRows, standingRows } from '../../core/facts/standing';
import type { Series } from '../../core/history/history';
import { addToColumns } from '../../core/measures/accumulator';
import type { DayFigures } from '../../core/measures/totals';
import { prepared, type Db } from '../database';
import { factsInPieces } from './layers';
import { shown } from './figuresSnapshot';

/*
 * Totals of a page by day, stored together (see the schema), derived from facts. What an import
 * affects is rederived; the rest stays.
 */

/** The daily totals of one page, or of one device on it, over consecutive days. */
type Run = {
  firstDay: number;
  days: number;
  positionSum: Float64Array;
  clicks: Int32Array;
  impressions: Int32Array;
  positionWeight: Int32Array;
  source: Uint8Array;
};

type KnownRow = [device: number, firstDay: number, days: number, figures: Buffer];

const BYTES_A_DAY = 21;
const COLUMNS = ['positionSum', 'clicks', 'impressions', 'positionWeight', 'source'] as const;

/** What a day of a piece is made of. */
const [ABSENT, FROM_TOTALS, FROM_QUERIES] = [0, 1, 2];

function emptyRun(firstDay: number, days: number): Run {
  return runIn(new ArrayBuffer(days * BYTES_A_DAY), firstDay, days);
}

function runIn(memory: ArrayBuffer, firstDay: number, days: number): Run {
  return {
    firstDay,
    days,
    positionSum: new Float64Array(memory, 0, days),
    clicks: new Int32Array(memory, 8 * days, days),
    impressions: new Int32Array(memory, 12 * days, days),
    positionWeight: new Int32Array(memory, 16 * days, days),
    source: new Uint8Array(memory, 20 * days, days),
  };
}

function fromBlob(figures: Buffer, firstDay: number, days: number): Run {
  const { buffer, byteOffset, byteLength } = figures;
  // A view of 64-bit floats has to begin at a multiple of eight bytes.
  const memory = byteOffset === 0 ? buffer : buffer.slice(byteOffset, byteOffset + byteLength);
  return runIn(memory as ArrayBuffer, firstDay, days);
}

function toBlob({ positionSum }: Run): Buffer {
  return Buffer.from(positionSum.buffer);
}

/** The days from the first to the last of a piece, with what it held of them; zero elsewhere. */
function resized(piece: Run | null, firstDay: number, lastDay: number): Run {
  if (piece && piece.firstDay === firstDay && piece.days === lastDay - firstDay + 1) return piece;
  const other = emptyRun(firstDay, lastDay - firstDay + 1);
  if (!piece) return other;
  const from = Math.max(firstDay, piece.firstDay);
  const to = Math.min(lastDay + 1, piece.firstDay + piece.days);
  for (const column of COLUMNS) {
    if (to > from)
      other[column].set(piece[column].subarray(from - piece.firstDay, to - piece.firstDay), from - firstDay);
  }
  return other;
}

/** A piece without the days at its ends that have no figures; null where none has any. */
function trimmed(piece: Run): Run | null {
  const first = piece.source.findIndex((source) => source !== ABSENT);
  if (first === -1) return null;
  const last = piece.source.findLastIndex((source) => source !== ABSENT);
  return resized(piece, piece.firstDay + first, piece.firstDay + last);
}

/** Adds one row of facts to its day. */
function addTo(piece: Run, { facts }: Layered, row: number, source: number): void {
  const at = facts.day[row]! - piece.firstDay;
  addToColumns(piece, at, facts.values[0]![row]!, facts.values[1]![row]!, facts.values[2]![row]!);
  if (source > piece.source[at]!) piece.source[at] = source;
}

/** The daily totals of a page, whole (0) and by device, over the days of some facts pieces. */
function totalsOf(db: Db, pageId: number, firstPiece: number, lastPiece: number): Map<number, Run> {
  const firstDay = firstDayOfPiece(firstPiece);
  const days = firstDayOfPiece(lastPiece + 1) - firstDay;
  const found = new Map<number, Run>();
  const runFor = (device: number): Run => {
    let piece = found.get(device);
    if (!piece) found.set(device, (piece = emptyRun(firstDay, days)));
    return piece;
  };
  // Days of an address of which the page's own totals were given: its query rows say less.
  const served = new Set<string>();
  for (const facts of factsInPieces(db, pageId, 'page_day', firstPiece, lastPiece)) {
    for (const row of standingRows(facts)) {
      served.add(`${facts.addressId}/${facts.facts.day[row]}`);
      addTo(runFor(0), facts, row, FROM_TOTALS!);
    }
    for (const row of standingDeviceRows(facts))
      addTo(runFor(facts.facts.device[row]!), facts, row, FROM_TOTALS!);
  }
  for (const facts of factsInPieces(db, pageId, 'page_query_day', firstPiece, lastPiece)) {
    const firstDay = firstDayOfPiece(facts.piece);
    const unserved = Array.from(
      { length: DAYS_A_PIECE },
      (_, i) => !served.has(`${facts.addressId}/${firstDay + i}`),
    );
    const run = runFor(0);
    for (const row of standingRows(facts)) {
      if (unserved[facts.facts.day[row]! - firstDay]) addTo(run, facts, row, FROM_QUERIES!);
    }
  }
  return found;
}

/** Pages with the pieces of facts of them that are to be derived again. */
export type ChangeIndex = ReadonlyMap<number, ReadonlySet<number>>;

/** Updates the series of pages over pieces of facts. Must run in a transaction. */
export function deriveSeries(db: Db, touched: ChangeIndex): void {
  const known = prepared<[number], KnownRow>(
    db,
    'SELECT device, first_day, days, figures FROM page_series WHERE page_id = ?',
  ).raw();
  const store = prepared(
    db,
    'INSERT OR REPLACE INTO page_series (page_id, device, first_day, days, figures) VALUES (?, ?, ?, ?, ?)',
  );
  const drop = prepared(db, 'DELETE FROM page_series WHERE page_id = ? AND device = ?');
  for (const [page, pieces] of touched) {
    if (pieces.size === 0) continue;
    const [firstPiece, lastPiece] = [Math.min(...pieces), Math.max(...pieces)];
    const [first, last] = [firstDayOfPiece(firstPiece), firstDayOfPiece(lastPiece + 1) - 1];
    const now = totalsOf(db, page, firstPiece, lastPiece);
    const before = new Map<number, Run>();
    for (const [device, firstDay, days, figures] of known.all(page)) {
      before.set(device, fromBlob(figures, firstDay, days));
    }
    for (const device of new Set([...before.keys(), ...now.keys()])) {
      const old = before.get(device) ?? null;
      const wide = resized(
        old,
        Math.min(first, old?.firstDay ?? first),
        Math.max(last, old ? old.firstDay + old.days - 1 : last),
      );
      const part = now.get(device) ?? emptyRun(first, last - first + 1);
      for (const column of COLUMNS) {
        wide[column].set(part[column], first - wide.firstDay);
      }
      const piece = trimmed(wide);
      if (piece) store.run(page, device, piece.firstDay, piece.days, toBlob(piece));
      else drop.run(page, device);
    }
  }
}

/** Figures of a page by day, where it has any. */
export type SeriesDay = DayFigures & { readonly fromQueries: boolean };

/** Days of a page with figures within a span, of a device (0: all devices). */
export function seriesDays(db: Db, pageId: number, span: Span, device = 0): SeriesDay[] {
  const row = prepared<[number, number], [number, number, Buffer]>(
    shown(db),
    'SELECT first_day, days, figures FROM page_series WHERE page_id = ? AND device = ?',
  )
    .raw()
    .get(pageId, device);
  if (!row) return [];
  const piece = fromBlob(row[2], row[0], row[1]);
  const found: SeriesDay[] = [];
  const last = Math.min(span.lastDay, piece.firstDay + piece.days - 1);
  for (let day = Math.max(span.firstDay, piece.firstDay); day <= last; day++) {
    const at = day - piece.firstDay;
    if (piece.source[at] === ABSENT) continue;
    found.push({
      day: day as Day,
      clicks: piece.clicks[at]!,
      impressions: piece.impressions[at]!,
      positionSum: piece.positionSum[at]!,
      positionWeight: piece.positionWeight[at]!,
      fromQueries: piece.source[at] === FROM_QUERIES,
    });
  }
  return found;
}

/** A series that also tells which of its days have figures (0: none). */
export type SiteSeries = Series & { readonly present: ArrayLike<number> };

/** Series of all pages of a site by page id, of a device (0: all devices). */
export function siteSeries(db: Db, siteId: number, device = 0): SiteSeries[] {
  const statement = prepared<[number, number], [number, number, number, Buffer]>(
    shown(db),
    `SELECT s.page_id, s.first_day, s.days, s.figures
     FROM page p CROSS JOIN page_series s ON s.page_id = p.id WHERE p.site_id = ? AND s.device = ?`,
  ).raw();
  const series: SiteSeries[] = [];
  for (const [id, firstDay, days, figures] of statement.iterate(siteId, device)) {
    const { source, ...columns } = fromBlob(figures, firstDay, days);
    series.push({ id, ...columns, firstDay: firstDay as Day, present: source });
  }
  return series;
}

/**
 * Clicks within a span of every page with figures on any day. Only that part of each series is
 * read.
 */
export function clicksIn(db: Db, siteId: number, { firstDay, lastDay }: Span): Map<number, number> {
  const from = 'max(0, min(s.days, ? - s.first_day))';
  const to = 'max(0, min(s.days, ? + 1 - s.first_day))';
  const rows = prepared<number[], [page: number, clicks: Buffer]>(
    shown(db),
    // The clicks stand after eight bytes a day; the first byte is 1.
    `SELECT s.page_id, substr(s.figures, 1 + 8 * s.days + 4 * ${from}, 4 * (${to} - ${from}))
     FROM page p CROSS JOIN page_series s ON s.page_id = p.id WHERE p.site_id = ? AND s.device = 0`,
  ).raw();
  const found = new Map<number, number>();
  for (const [page, clicks] of rows.iterate(firstDay, lastDay, firstDay, siteId)) {
    let sum = 0;
    for (let at = 0; at < clicks.length; at += 4) sum += clicks.readInt32LE(at);
    found.set(page, sum);
  }
  return found;
}

/** The pages of a site that have search figures. */
export function pagesWithFigures(db: Db, siteId: number): Set<number> {
  const rows = prepared<[number], number>(
    shown(db),
    'SELECT s.page_id FROM page p JOIN page_series s ON s.page_id = p.id WHERE p.site_id = ? AND s.device = 0',
  );
  return new Set(rows.pluck().all(siteId));
}
