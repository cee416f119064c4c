import type { Day } from '../calendar/day';
import type { Span } from '../calendar/span';

/** A checked position on a day; null if the site wasn’t among the results checked. */
export type CheckedPosition = { readonly day: Day; readonly position: number | null };

/** What something brought on each day shown; null on days without figures. */
export type SubjectDays = {
  readonly shown: Span;
  readonly clicks: readonly (number | null)[];
  readonly impressions: readonly (number | null)[];
  readonly appeal: readonly (number | null)[];
  readonly position: readonly (number | null)[];
};
