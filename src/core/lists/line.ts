/* A line of a list, as it is shown, saved and answered with. */

import type { Metrics } from '../measures/comparison';
import type { PageRef } from '../model/change';
import type { Column, ListSubject } from './columns';
import type { Intent } from '../model/intents';

/** A line of a list. */
export type ListLine = {
  readonly page: PageRef | null;
  readonly query: { readonly id: number; readonly text: string } | null;
  readonly metrics: Metrics;
  /** Columns besides the measures; null where the line has none. */
  readonly further: Readonly<Partial<Record<Column, number | null>>>;
  /** The title of the page as it was last fetched. */
  readonly title: string | null;
  readonly group: string | null;
  readonly brand: boolean | null;
  readonly intent: Intent | null;
  /** Of a page its target query, of a query the path of its target page. */
  readonly target: string | null;
};

/** A filter of a list that was named and kept. */
export type KeptFilter = {
  readonly id: number;
  readonly subject: ListSubject;
  readonly name: string;
  /** The query of its address, with its question mark. */
  readonly query: string;
};
