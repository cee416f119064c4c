import type { ColumnMapping } from './columns';
import type { DateOrder, DateOrderFinding } from './dates';
import type { FigureRow } from './row';

/** What a figures file looks like before anything of it is stored. */
export type Inspection = {
  readonly head: readonly string[];
  readonly mapping: ColumnMapping;
  readonly mappingProblems: readonly string[];
  readonly dateOrder: DateOrderFinding;
  readonly rows: number;
  /** The first rows: as written, and as they will be understood (or why they will be refused). */
  readonly sample: readonly {
    readonly line: number;
    readonly cells: readonly string[];
    readonly understood: FigureRow | string;
  }[];
};

/** What a person states about a file instead of leaving it to be recognised. */
export type Stated = {
  readonly mapping?: ColumnMapping | undefined;
  readonly dateOrder?: DateOrder | undefined;
};
