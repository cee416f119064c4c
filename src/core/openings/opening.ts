/* What an opening is: a page or query where work is likely to pay, with what it would bring. */

import type { OpeningKind } from './kinds';

/** Days of a month, by which gains are told. */
export const MONTH_DAYS = 30;

/** Clicks a month that an opening would bring, with the range that holds the truth 80 times in a hundred. */
export type Gain = { readonly clicks: number; readonly low: number; readonly high: number };
export const NO_GAIN: Gain = { clicks: 0, low: 0, high: 0 };

/** An opening before it is put into words: what it is about, by ids, and the figures that it rests on. */
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
