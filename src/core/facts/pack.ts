import { emptyFacts, firstRows, type Facts } from './facts';

/*
 * A piece is the rows of one page within 32 days, in bytes: the number of rows, the width of each
 * column (0: all zero; 1, 2, 4: unsigned; 8: floating point), then the columns, each aligned to
 * eight bytes. Days count from the first of the 32. Figures by page and query take about 16 bytes a
 * row. Where files are merged, a last column holds the day each row was taken.
 */

/** A piece holds the days that share all but the last five bits. */
export const DAYS_A_PIECE = 32;
const HEADER = 16;

/** The piece that a day belongs to. */
export function pieceOf(day: number): number {
  return day >> 5;
}

function widthOf(column: ArrayLike<number>, rows: number): number {
  let most = 0;
  for (let i = 0; i < rows; i++) {
    const value = column[i]!;
    // Fractions, absent values, negative and huge ones; and -0, which would come back as 0.
    if (!(value >= 0) || value > 0xffffffff || value !== Math.floor(value) || Object.is(value, -0)) return 8;
    if (value > most) most = value;
  }
  return most === 0 ? 0 : most < 256 ? 1 : most < 65536 ? 2 : 4;
}

function arrayOf(width: number, memory: ArrayBufferLike, at: number, rows: number) {
  if (width === 1) return new Uint8Array(memory, at, rows);
  if (width === 2) return new Uint16Array(memory, at, rows);
  return width === 4 ? new Uint32Array(memory, at, rows) : new Float64Array(memory, at, rows);
}

/** The first day of a piece. */
export function firstDayOfPiece(piece: number): number {
  return piece * DAYS_A_PIECE;
}

/**
 * Packs the rows of a piece, whose days count from `firstDay`; `vintage` is the day each row was
 * taken, if it differs.
 */
export function packFacts(facts: Facts, firstDay: number, vintage: Int32Array | null = null): Uint8Array {
  const { rows } = facts;
  const days = new Uint16Array(rows);
  for (let i = 0; i < rows; i++) days[i] = facts.day[i]! - firstDay;
  const columns: ArrayLike<number>[] = [facts.query, days, facts.device, facts.country, ...facts.values];
  if (vintage) columns.push(vintage);
  const widths = columns.map((column) => widthOf(column, rows));
  const starts: number[] = [];
  let size = HEADER;
  for (const width of widths) {
    starts.push(size);
    size += (width * rows + 7) & ~7;
  }
  const memory = new ArrayBuffer(size);
  new DataView(memory).setUint32(0, rows, true);
  new Uint8Array(memory, 4).set(widths);
  columns.forEach((column, c) => {
    if (widths[c] !== 0) arrayOf(widths[c]!, memory, starts[c]!, rows).set(column);
  });
  return new Uint8Array(memory);
}

/**
 * Unpacks a piece; `values` is the number of values of its grain. Throws RangeError if bytes are
 * missing.
 */
export function unpackFacts(bytes: Uint8Array, firstDay: number, values: number): Facts {
  return unpackPiece(bytes, firstDay, values).facts;
}

/**
 * An unpacked piece: its rows, the day each was taken (null if all the same), and whether they are
 * split.
 */
export type Piece = { readonly facts: Facts; readonly vintage: Int32Array | null; readonly divided: boolean };

/** Unpacks a piece into `columns`, or into new ones. */
export function unpackPiece(
  bytes: Uint8Array,
  firstDay: number,
  values: number,
  columns: (rows: number, values: number) => Facts = emptyFacts,
): Piece {
  // Columns begin at multiples of eight, and so must the memory they are read from.
  const whole = bytes.byteOffset % 8 === 0 ? bytes : bytes.slice();
  const rows = new DataView(whole.buffer, whole.byteOffset).getUint32(0, true);
  const facts = columns(rows, values);
  const vintage = whole[4 + 4 + values] === 0 ? null : new Int32Array(rows);
  const all = [facts.query, facts.day, facts.device, facts.country, ...facts.values];
  let at = HEADER;
  (vintage ? [...all, vintage] : all).forEach((column, c) => {
    const width = whole[4 + c]!;
    // Of columns that are used again something stands there.
    if (width === 0) column.fill(0);
    else column.set(arrayOf(width, whole.buffer, whole.byteOffset + at, rows));
    at += (width * rows + 7) & ~7;
  });
  for (let i = 0; i < rows; i++) facts.day[i]! += firstDay;
  return { facts, vintage, divided: whole[DEVICE] !== 0 || whole[DEVICE + 1] !== 0 };
}

/** Where the header has the width of the column of devices; that of countries follows. */
const DEVICE = 6;

/**
 * Columns reused for one piece after another, so that reading millions of rows makes no garbage.
 * What was read is valid until the next piece is.
 */
export function columnsUsedAgain(): (rows: number, values: number) => Facts {
  let kept = emptyFacts(0, 0);
  return (rows, values) => {
    if (kept.rows < rows || kept.values.length !== values) kept = emptyFacts(Math.ceil(rows * 1.25), values);
    const facts = firstRows(kept, rows);
    // Columns of which all is zero are not in the bytes.
    for (const column of [facts.query, facts.day, facts.device, facts.country, ...facts.values])
      column.fill(0);
    return facts;
  };
}
