import { condense, type RawFacts } from './condense';
import { radixOrder } from './order';
import { DAYS_A_PIECE, firstDayOfPiece, packFacts, pieceOf } from './pack';

/** Rows as they stood in a file, of several addresses, which are given by any number. */
export type AddressedRows = RawFacts & { readonly address: Uint32Array };

/** Where the period of a row begins, if it holds for more than a day. */
export type PeriodStart = number | 'weeks' | null;

/** The rows of one address and piece, ready to be stored. */
export type LaidOut = {
  readonly address: number;
  readonly piece: number;
  readonly rows: number;
  readonly bytes: Uint8Array;
  /** Lines that repeated the key of another. */
  readonly repeated: number;
  /** Rows on each day of the piece. */
  readonly days: readonly { readonly day: number; readonly rows: number }[];
};

/**
 * Sorts the rows of a file, each key once, and packs them by address and piece. All rows of an address and piece must be
 * among them. Rows of a period are one piece.
 *
 * @param period the first day of the period that all rows hold for; 'weeks' where each row holds
 *   for the week that ends on its day; null where it holds for its day
 */
export function sortAndPack(raw: AddressedRows, period: PeriodStart): LaidOut[] {
  const pieces = new Int32Array(raw.rows);
  const daysInPiece = new Uint8Array(raw.rows);
  for (let i = 0; i < raw.rows; i++) {
    pieces[i] = period === 'weeks' ? raw.day[i]! - 6 : (period ?? pieceOf(raw.day[i]!));
    daysInPiece[i] = raw.day[i]! & (DAYS_A_PIECE - 1);
  }
  const order = radixOrder(raw.rows, [
    ...[raw.address, pieces, raw.query, daysInPiece, raw.device, raw.country, raw.part],
  ]);
  const laid: LaidOut[] = [];
  for (let from = 0; from < raw.rows;) {
    const address = raw.address[order[from]!]!;
    const piece = pieces[order[from]!]!;
    let to = from + 1;
    while (to < raw.rows && raw.address[order[to]!] === address && pieces[order[to]!] === piece) to++;
    const { facts, repeated } = condense(raw, order, from, to);
    const bytes = packFacts(facts, period === null ? firstDayOfPiece(piece) : piece);
    laid.push({ address, piece, rows: facts.rows, bytes, repeated, days: countDays(facts.day, facts.rows) });
    from = to;
  }
  return laid;
}

function countDays(day: Int32Array, rows: number): LaidOut['days'] {
  // Days within one piece differ in their last bits only.
  const counts = new Uint32Array(DAYS_A_PIECE);
  for (let i = 0; i < rows; i++) counts[day[i]! & (DAYS_A_PIECE - 1)]!++;
  const first = rows === 0 ? 0 : firstDayOfPiece(pieceOf(day[0]!));
  return [...counts].flatMap((n, i) => (n === 0 ? [] : [{ day: first + i, rows: n }]));
}
