import type { Day } from '../../core/calendar/day';

/** What the results show of a page, and the first day on which they did, as far as that is known. */
export type Shown = { readonly title: string; readonly since: Day | null };

/**
 * What is asked of a search index. None has an open interface for it, so in the real world people look for themselves and
 * say what they saw; only simulated ones answer.
 */
export type SearchIndex = {
  /** The first day from `since` on, on which an address was crawled; null where it was not yet. */
  readonly crawledSince: (address: string, since: Day) => Promise<Day | null>;
  /** What the results show of an address today; null where it is not among them. */
  readonly shown: (address: string) => Promise<Shown | null>;
};
