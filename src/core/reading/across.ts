import type { Span } from '../calendar/span';
import type { OutsideEvent } from '../model/event';
import type { Net } from '../effect/effect';
import type { Mark } from '../effect/verdict';

/** One page, or a part of the site, across an event: what it did beyond what the rest of the site did. */
export type AcrossLine = {
  readonly name: string;
  /** Null for a part of the site. */
  readonly pageId: number | null;
  readonly pages: number;
  readonly net: Net;
  readonly mark: Mark;
};

/** Who moved across an outside event, measured as a reading is: the days before it against those after it. */
export type Across = {
  readonly event: OutsideEvent;
  readonly before: Span;
  readonly after: Span;
  /** Null where the days after it are not over yet, or there are no figures. */
  readonly lines: { readonly parts: readonly AcrossLine[]; readonly pages: readonly AcrossLine[] } | null;
};

/** Of pages that nothing happened to, so many in a hundred are marked as moved by chance: the ranges hold nine in ten. */
export const MOVED_BY_CHANCE = 0.1;
