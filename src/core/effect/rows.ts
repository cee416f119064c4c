/* Input of the engine: rows of a history with their groups, their changes, and their roles. */

import type { History } from '../history/history';
import type { ChangeIndex } from '../history/changeIndex';

/** The groups of a site's pages: the number of each row's group, and how many groups there are. */
export type Groups = { readonly of: ArrayLike<number>; readonly count: number };

/** Rows, and all that is known of them beside their figures. */
export type Rows = {
  readonly history: History;
  readonly touched: ChangeIndex;
  /** Groups as stated or by path. The figures decide between these and learned groups. */
  readonly groups: Groups;
  /** 1 for the rows that may stand in a control. */
  readonly control: Uint8Array;
  /** 1 for the rows from which the ordinary swing is learned. */
  readonly learnedFrom: Uint8Array;
};
