/* What an opening is: a page or query where work is likely to pay, with what it would bring. */

import type { OpeningKind } from './kinds';

/** Days of a month, by which gains are told. */
export const MONTH_DAYS = 30;

/** Extra clicks a month that an opening would bring, with an 80% range. */
export type Gain = { readonly clicks: number; readonly low: number; readonly high: number };
export const NO_GAIN: Gain = { clicks: 0, low: 0, high: 0 };

/** An opening before it is worded: its subject, by ids, and its figures. */
export type Opening = {
  readonly kind: OpeningKind;
  readonly pageId: number | null;
  readonly queryId: number | null;
  readonly gain: Gain | null;
  /** What the kind rests on, by name; absent figures are left out. */
  readonly figures: Readonly<Record<string, number>>;
};

/** The quantiles of an 80% range. */
export const [RANGE_LOW, RANGE_HIGH] = [0.1, 0.9];
