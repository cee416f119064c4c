import { namedError } from '../errors';
import Papa from 'papaparse';
import { isoDay, parseIsoDay, type Day } from '../calendar/day';
import { emptyFacts, type Facts } from '../facts/facts';
import { GRAINS, type Grain } from '../facts/grains';
import { isoDaySchema } from '../model/fields';
import { DEVICES } from '../intake/rowReader';

/*
 * Figures as CSV: a row for each that a file brought, in the order of address, days, query, device and country. What is needed
 * to get the very same figures back stands beside what people read: the sum of positions beside their mean.
 */

/** The columns of a file of figures, in their order. */
export function figuresHead(grain: Grain, folded: boolean): string[] {
  return [
    ...['page', ...(GRAINS[grain].dated ? [] : ['from']), 'date', 'query', 'device', 'country'],
    ...GRAINS[grain].values.flatMap((name) =>
      name === 'positionSum' ? ['position', 'position_sum'] : [asColumn(name)],
    ),
    ...(folded ? ['taken'] : []),
  ];
}

/** @example asColumn('engagedSessions') // 'engaged_sessions' */
const asColumn = (name: string) => name.replace(/[A-Z]/g, (letter) => `_${letter.toLowerCase()}`);

/**
 * A text as a cell (RFC 4180). One that a spreadsheet program would run gets an apostrophe in front, and one that begins with an
 * apostrophe another, so that each can be told back.
 * @example textCell('=1+1') // "'=1+1"
 */
export function textCell(text: string): string {
  const safe = /^[\s'=+\-@＝＋－＠]/.test(text) ? `'${text}` : text;
  return /[",\r\n]/.test(safe) ? `"${safe.replaceAll('"', '""')}"` : safe;
}

const cellText = (cell: string) => (cell.startsWith("'") ? cell.slice(1) : cell);

const DEVICE_NAMES = Object.keys(DEVICES).map((name) => (name === 'all' ? '' : name));

/** What rows of figures name by number. */
export type FiguresNames = {
  /** Texts as cells. */
  readonly query: (number: number) => string;
  readonly country: (number: number) => string;
};

export type PieceRows = {
  readonly facts: Facts;
  /** The day on which each row was taken, where that is not the same for all. */
  readonly vintage: Int32Array | null;
  /** The first day of a period. */
  readonly piece: number;
};

/** The lines of one piece of an address, each ended by CR and LF. `address` is its cell. */
export function figuresLines(
  { facts, vintage, piece }: PieceRows,
  grain: Grain,
  folded: boolean,
  address: string,
  names: FiguresNames,
): string {
  const { values, dated } = GRAINS[grain];
  const from = dated ? '' : `${dayText(piece)},`;
  let lines = '';
  for (const i of inOrder(facts, names)) {
    lines += `${address},${from}${dayText(facts.day[i]!)},${names.query(facts.query[i]!)},`;
    lines += `${DEVICE_NAMES[facts.device[i]!]},${names.country(facts.country[i]!)}`;
    for (let v = 0; v < values.length; v++) {
      const value = facts.values[v]![i]!;
      if (values[v] === 'positionSum') lines += `,${meanPosition(value, facts.values[1]![i]!)}`;
      lines += Number.isNaN(value) ? ',' : `,${value}`;
    }
    if (folded) lines += vintage ? `,${dayText(vintage[i]!)}` : ',';
    lines += '\r\n';
  }
  return lines;
}

/** There are some thousand days, and millions of rows. */
const dayTexts = new Map<number, string>();

function dayText(day: number): string {
  const known = dayTexts.get(day) ?? isoDay(day as Day);
  dayTexts.set(day, known);
  return known;
}

const meanPosition = (sum: number, impressions: number) =>
  sum > 0 && impressions > 0 ? (sum / impressions).toFixed(2) : '';

/** Rows in an order that does not hang on the numbers that countries happen to have. */
function inOrder({ rows, query, day, device, country }: Facts, names: FiguresNames): Iterable<number> {
  const order = Uint32Array.from({ length: rows }, (_, i) => i);
  if (!country.some((one) => one !== 0)) return order;
  const name = (i: number) => names.country(country[i]!);
  return order.sort(
    (a, b) =>
      query[a]! - query[b]! ||
      day[a]! - day[b]! ||
      device[a]! - device[b]! ||
      (name(a) < name(b) ? -1 : name(a) > name(b) ? 1 : 0),
  );
}

/** Rows of figures cannot be what they should; the message says what is wrong with the row at `row` of those given. */
export class BadFigures extends namedError('BadFigures') {
  constructor(
    readonly row: number,
    message: string,
  ) {
    super(message);
  }
}

/** Rows of one address and piece as they were read. */
export type ReadPiece = PieceRows & { readonly address: string };

/** How figures are read: texts to numbers, null for those that are not known. */
export type FiguresNumbers = {
  readonly query: (text: string) => number | null;
  readonly country: (text: string) => number;
};

/** Cells of a block of whole lines. Throws BadFigures where quotes do not close. */
export function figuresCells(block: string): string[][] {
  const { data, errors } = Papa.parse<string[]>(block, { delimiter: ',', newline: '\r\n' });
  const [bad] = errors;
  if (bad) throw new BadFigures(bad.row ?? 0, 'Its quotes do not close.');
  if (data.at(-1)?.length === 1 && data.at(-1)![0] === '') data.pop();
  return data;
}

/** Divides lines by address and piece, which stand together. The last of them may go on in the next block. */
export function piecesOfLines(
  lines: readonly (readonly string[])[],
  grain: Grain,
  pieceOf: (day: number) => number,
): { readonly address: string; readonly piece: number; readonly from: number; readonly to: number }[] {
  const { dated } = GRAINS[grain];
  const found: { address: string; piece: number; from: number; to: number }[] = [];
  lines.forEach((cells, i) => {
    const day = dayOf(cells[1] ?? '', i);
    const piece = dated ? pieceOf(day) : day;
    const last = found.at(-1);
    if (last?.address === cells[0] && last!.piece === piece) last!.to = i + 1;
    else found.push({ address: cells[0]!, piece, from: i, to: i + 1 });
  });
  return found.map((one) => ({ ...one, address: cellText(one.address) }));
}

/** The rows of one piece, in the order that the store keeps them in. Throws BadFigures. */
export function readPiece(
  lines: readonly (readonly string[])[],
  grain: Grain,
  folded: boolean,
  numbers: FiguresNumbers,
): { readonly facts: Facts; readonly vintage: Int32Array | null } {
  const { values, dated } = GRAINS[grain];
  const width = figuresHead(grain, folded).length;
  const raw = emptyFacts(lines.length, values.length);
  const taken = folded ? new Int32Array(lines.length) : null;
  let takens = 0;
  lines.forEach((cells, i) => {
    if (cells.length !== width) throw new BadFigures(i, `It has ${cells.length} cells, not ${width}.`);
    let c = dated ? 1 : 2;
    raw.day[i] = dayOf(cells[c++]!, i);
    if (!dated && raw.day[i]! < dayOf(cells[1]!, i))
      throw new BadFigures(i, 'Its period ends before it begins.');
    const query = cellText(cells[c++]!);
    const number = query === '' ? 0 : numbers.query(query);
    if (number === null) throw new BadFigures(i, 'Its query is none of those of the archive.');
    raw.query[i] = number;
    const device = DEVICE_NAMES.indexOf(cells[c++]!);
    if (device === -1) throw new BadFigures(i, 'Its device is none that there is.');
    raw.device[i] = device;
    const country = cellText(cells[c++]!);
    raw.country[i] = country === '' ? 0 : numbers.country(country);
    values.forEach((name, v) => {
      if (name === 'positionSum') c++;
      const cell = cells[c++]!;
      const value = cell === '' ? NaN : Number(cell);
      // Money may be paid back.
      const least = name === 'revenue' ? -MOST : 0;
      if (cell !== '' && !(value >= least && value <= MOST && cell.trim() === cell))
        throw new BadFigures(i, `“${cell.slice(0, 40)}” is no number.`);
      raw.values[v]![i] = value;
    });
    if (taken && cells[c] !== '') {
      taken[i] = dayOf(cells[c]!, i);
      takens++;
    }
  });
  if (taken && takens !== 0 && takens !== lines.length)
    throw new BadFigures(0, 'Only some rows of a page in the same days say when they were taken.');
  return sorted(raw, takens === 0 ? null : taken);
}

const MOST = 1e15;

const days = new Map<string, number>();

function dayOf(text: string, row: number): number {
  const known = days.get(text);
  if (known !== undefined) return known;
  const day = isoDaySchema.safeParse(text).success ? parseIsoDay(text) : null;
  if (day === null) throw new BadFigures(row, `“${text.slice(0, 40)}” is no day.`);
  days.set(text, day);
  return day;
}

/** Rows in the order of their keys. Throws BadFigures where two share one. */
function sorted(raw: Facts, taken: Int32Array | null): { facts: Facts; vintage: Int32Array | null } {
  const { query, day, device, country } = raw;
  const compare = (a: number, b: number) =>
    query[a]! - query[b]! || day[a]! - day[b]! || device[a]! - device[b]! || country[a]! - country[b]!;
  const order = Array.from({ length: raw.rows }, (_, i) => i);
  let inOrder = true;
  for (let i = 1; i < raw.rows && inOrder; i++) inOrder = compare(i - 1, i) < 0;
  if (inOrder) return { facts: raw, vintage: taken };
  order.sort(compare);
  const again = order.find((at, i) => i > 0 && compare(order[i - 1]!, at) === 0);
  if (again !== undefined) throw new BadFigures(again, 'The same row stands there twice.');
  const pick = <A extends Int32Array | Uint8Array | Float64Array>(column: A): A =>
    column.map((_, i) => column[order[i]!]!) as A;
  return {
    facts: {
      rows: raw.rows,
      ...{ query: pick(query), day: pick(day), device: pick(device), country: pick(country) },
      values: raw.values.map(pick),
    },
    vintage: taken && pick(taken),
  };
}
