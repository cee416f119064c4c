import type { Span } from '../calendar/span';

/** The two spans of a list: what is shown, and what it is compared with (null: nothing). */
export type ListSpans = { readonly now: Span; readonly was: Span | null };
