/* What the engine works on: rows of a history with their groups, when each was touched, and what each is for. */

import type { Day } from '../calendar/day';
import type { History } from '../history/history';
import type { Touched } from '../history/touched';

/** The groups of a site's pages: the number of each row's group, and how many groups there are. */
export type Groups = { readonly of: ArrayLike<number>; readonly count: number };

/**
 * What the rows of a history are for: the first `yardstick` rows make up the yardstick, and the swing is learned from
 * those from `firstSubject` on. Of a site's pages that is all of them, of single queries the rows after the pages.
 */
export type Roles = { readonly yardstick: number; readonly firstSubject: number };

/** Rows, and all that is known of them beside their figures. */
export type Rows = {
  readonly history: History;
  readonly touched: Touched;
  readonly groups: Groups;
  readonly roles: Roles;
};

/** How long the spans on either side are, and how many days are left out between them. */
export type SpanLengths = { readonly windowDays: number; readonly settlingDays: number };

/** A day and the spans that are compared around it. */
export type Moment = SpanLengths & { readonly day: Day };
