import type { Span } from '../calendar/span';
import type { Grain } from '../facts/grains';
import type { ColumnMapping } from './columns';
import type { ChoiceFound, Counted } from './counted';
import type { DateOrder, DateOrderFinding } from './dates';

/** Cells of examples are shown so far. */
const SHOWN_OF_A_CELL = 300;

/** The cells of an example row as they are shown: of endless ones the beginning. */
export function shownCells(cells: readonly string[]): string[] {
  return cells.map((cell) => (cell.length > SHOWN_OF_A_CELL ? `${cell.slice(0, SHOWN_OF_A_CELL)}…` : cell));
}

/** One of the first rows as it will be understood. */
export type UnderstoodRow = {
  readonly day: number | null;
  readonly address: string | null;
  readonly query: string | null;
  readonly device: number;
  readonly country: string;
  /** By the names of the grain's values; null where absent. */
  readonly values: Readonly<Record<string, number | null>>;
  readonly attributes: readonly { readonly name: string; readonly value: string }[];
};

/** What a figures file looks like before anything of it is stored. */
export type Inspection = {
  readonly head: readonly string[];
  readonly mapping: ColumnMapping;
  readonly grain: Grain | null;
  readonly mappingProblems: readonly string[];
  readonly dateOrder: DateOrderFinding;
  /** What only a person can say before the file can be brought in. */
  readonly questions: readonly ('dateOrder' | 'period' | 'counted')[];
  readonly period: Span | null;
  readonly rows: number;
  /** Of these, rows that count by the values of the choice columns; the others are left out. */
  readonly rowsCounted: number;
  /** The choice columns of the file with the values met. */
  readonly choices: readonly ChoiceFound[];
  /** Whether rows are split by search appearance: these overlap, and only unsplit rows count. */
  readonly byAppearance: boolean;
  /** Whether the number of rows was estimated from the beginning of a large file. */
  readonly rowsEstimated: boolean;
  /** How the file is written, for people: "semicolons, Windows-1252, gzip". */
  readonly dialect: string;
  /** The line of the head, from 1. */
  readonly headLine: number;
  /** Of the first rows, how many were looked at, and how many of them would be refused. */
  readonly looked: { readonly rows: number; readonly refused: number };
  /**
   * Some of the first rows, refused ones first: as written, and as they will be read (why they will
   * be refused, or null if left out).
   */
  readonly sample: readonly {
    readonly line: number;
    readonly cells: readonly string[];
    readonly understood: UnderstoodRow | string | null;
  }[];
};

/** What a person states about a file instead of leaving it to be recognised. */
export type Stated = {
  readonly mapping?: ColumnMapping | undefined;
  readonly dateOrder?: DateOrder | undefined;
  /** The line of the head, from 1. */
  readonly headLine?: number | undefined;
  readonly counted?: Counted | undefined;
  /** The days that all rows hold for, where they have no dates. */
  readonly period?: Span | undefined;
};
