import type { Range, Sorting } from '../../core/lists/choose';
import type { Column, ListSubject } from '../../core/lists/columns';
import type { Intent } from '../../core/model/intents';
import type { ListLine } from '../../core/lists/line';
import type { Metrics } from '../../core/measures/comparison';
import type { ListSpans } from '../../core/lists/spans';

/** What is wanted of a list. Spans are whole; `limit` lines from place `from` on. */
export type ListRequest = {
  readonly subject: ListSubject;
  readonly spans: ListSpans;
  /** The code of a device; 0 for all. */
  readonly device: number;
  /** Of pairs: those of one page, or of one query; of queries: that one. */
  readonly pageId?: number;
  readonly queryId?: number;
  /** Words that have to be in the text, and words that must not. */
  readonly words: readonly string[];
  readonly without: readonly string[];
  readonly brand: boolean | null;
  readonly intent: Intent | null;
  readonly group: string | null;
  readonly ranges: readonly (readonly [Column, Range])[];
  readonly sort: Sorting;
  readonly from: number;
  readonly limit: number;
};

export type ListAnswer = {
  readonly lines: readonly ListLine[];
  /** How many lines were found, and how many there would be without any filter. */
  readonly total: number;
  readonly all: number;
  /** All that was found, together. */
  readonly sums: Metrics;
  /** All lines together, whatever is filtered out, and all pages of the site. */
  readonly totals: { readonly listed: Metrics; readonly site: Metrics };
  /** What the figures do not tell for the device that was chosen. */
  readonly lacks: { readonly device: boolean; readonly queries: boolean };
  /** The names of the groups of pages. */
  readonly groups: readonly string[];
  readonly spans: ListSpans;
  /** Whether the site has landing-page figures, and searches a month. */
  readonly has: { readonly landing: boolean; readonly searches: boolean };
};
