import type { DateOrderFinding } from './dates';
import type { NewChange } from '../model/change';
import type { LedgerMapping } from './ledgerColumns';

/** What a sheet of changes looks like before anything of it is stored. */
export type LedgerInspection = {
  readonly head: readonly string[];
  readonly mapping: LedgerMapping;
  readonly problems: readonly string[];
  readonly dateOrder: DateOrderFinding;
  /** Whether somebody has to say first in which order day and month are. */
  readonly asksDateOrder: boolean;
  readonly join: boolean;
  /** What the sheet calls types that are not recognised, and what each is taken for. */
  readonly unsure: readonly { readonly written: string; readonly rows: number; readonly kind: string }[];
  readonly rows: number;
  readonly refused: number;
  /** Rows that are in the ledger already, from an earlier file. */
  readonly known: number;
  /** Changes that the other rows make. */
  readonly changes: number;
  /** How the file is written, for people. */
  readonly dialect: string;
  /** The first rows: as written, and as they will be understood, or why they will be refused. */
  readonly sample: readonly {
    readonly line: number;
    readonly cells: readonly string[];
    readonly understood: NewChange | string;
  }[];
};
