/* What a kind of opening says of itself. Each kind is described in one file beside this one. */

import type { Day } from '../../calendar/day';
import type { Column } from '../../lists/columns';
import type { Metric } from '../../measures/registry';
import type { Said } from '../../words/termsOnPage';

/** What a sentence names besides figures. */
export type Named = {
  /**
   * Pages that compete for a query, with their shares; or pages that could link to a page without
   * links.
   */
  readonly pages?: readonly {
    readonly path: string;
    readonly share?: number;
    readonly led?: number;
    readonly position?: number;
  }[];
  readonly said?: Said;
  readonly words?: readonly string[];
  readonly findings?: readonly string[];
  /** When it declined, its part of the site where that fell too, and events noted about then. */
  readonly day?: Day;
  readonly part?: { readonly name: string; readonly ratio: number } | null;
  readonly events?: readonly string[];
};

export type KindDescription = {
  /** The name in lists, in lower case. */
  readonly name: string;
  /**
   * The evidence as a client could read it. `of` returns a figure of the opening by name, 0 if
   * absent.
   */
  readonly sentence: (of: (figure: string) => number, named: Named) => string;
  /** The type of change that helps, the metric that would show it, and how its title begins. */
  readonly remedy: { readonly kind: string; readonly metric: Metric; readonly what: string };
  /** The figures in its pane: the queries of its page, or the pages of its query. */
  readonly rows: { readonly of: 'page' | 'query'; readonly by: Column; readonly title: string };
  /**
   * Whether its pages can go into an experiment: one type of change on many pages is the remedy.
   */
  readonly fitsExperiment: boolean;
};

const BY_IMPRESSIONS = { by: 'impressions', title: 'Its searches, the most seen first' } as const;
export const QUERIES_OF_PAGE = { of: 'page', ...BY_IMPRESSIONS } as const;
