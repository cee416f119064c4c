/* An opening put into words, and what its pane shows. */

import type { Day } from '../calendar/day';
import type { Span } from '../calendar/span';
import type { ListLine } from '../lists/line';
import type { PageRef } from '../model/change';
import type { ExpectedGain } from './expectedGain';
import type { Opening } from './opening';
import type { KindScore } from '../scorebook/kindScore';
import type { Said } from '../words/termsOnPage';

/**
 * What a page is busy with: a change that is read until a day, or an experiment (`until` is
 * unknown).
 */
export type Busy =
  | { readonly changeId: number; readonly roundId: null; readonly until: Day }
  | { readonly changeId: null; readonly roundId: number; readonly until: null };

/** An opening with what it is about, put into words. */
export type NamedOpening = Omit<Opening, 'pageId' | 'queryId'> & {
  /** What it is known by from one day to the next. */
  readonly key: string;
  readonly page: PageRef | null;
  readonly query: { readonly id: number; readonly text: string } | null;
  readonly sentence: string;
  /** Conversions, and money, that the gain would bring; null where nothing is known of either. */
  readonly conversions: number | null;
  readonly worth: number | null;
};

/** An opening as it stands on a day. */
export type TimedOpening = NamedOpening & {
  /** The change or experiment on its page that is still being read. */
  readonly busy: Busy | null;
  /** Days after which its effect would show; null if not within half a year, or unknown. */
  readonly daysToShow: number | null;
  /** What this type of change can be expected to bring here; null where too few were read. */
  readonly expected: ExpectedGain | null;
};

/** What the pane of an opening shows besides itself. */
export type OpeningDetail = {
  /** Id of the newest result page of its query, or of its most seen query that has one. */
  readonly wording: number | null;
  readonly opening: TimedOpening;
  readonly span: Span;
  readonly months: number;
  /** The searches of its page, or the pages of its search, and whether the page says each. */
  readonly searches: readonly { readonly line: ListLine; readonly said: Said | null }[];
  readonly more: number;
  readonly title: string | null;
  readonly description: string | null;
  /** When the page was last found to say so. */
  readonly seenOn: Day | null;
  /** Clicks of the page in the last thirty days. */
  readonly clicksNow: number;
  /** What changes of this type have brought here; null if too few were read. */
  readonly came: KindScore | null;
};
