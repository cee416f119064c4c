import type { Day } from '../calendar/day';
import type { Span } from '../calendar/span';

/** A position that was looked up on a day; null where the site was not among the results looked at. */
export type CheckedPosition = { readonly day: Day; readonly position: number | null };

/** What something brought on each day shown; null on days without figures. */
export type SubjectDays = {
  readonly shown: Span;
  readonly clicks: readonly (number | null)[];
  readonly impressions: readonly (number | null)[];
  readonly appeal: readonly (number | null)[];
  readonly position: readonly (number | null)[];
};
