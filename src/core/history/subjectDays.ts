import type { Span } from '../calendar/span';

/** What something brought on each day shown; null on days without figures. */
export type SubjectDays = {
  readonly shown: Span;
  readonly clicks: readonly (number | null)[];
  readonly impressions: readonly (number | null)[];
  readonly appeal: readonly (number | null)[];
  readonly position: readonly (number | null)[];
};
