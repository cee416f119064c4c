/* The kinds of opening, by their names over HTTP and in the order in which lists offer them. */

import { chosenTooLittle } from './chosenTooLittle';
import { competingPages } from './competingPages';
import { outOfOrder } from './outOfOrder';
import { slipped } from './slipped';
import { unlinked } from './unlinked';
import { unsaid } from './unsaid';
import { visitedNotBought } from './visitedNotBought';
import { withinReach } from './withinReach';

export const KINDS = {
  'chosen-too-little': chosenTooLittle,
  'within-reach': withinReach,
  unsaid,
  shared: competingPages,
  slipped,
  unlinked,
  'out-of-order': outOfOrder,
  'visited-not-bought': visitedNotBought,
} as const;

export type OpeningKind = keyof typeof KINDS;
export const OPENING_KINDS = Object.keys(KINDS) as [OpeningKind, ...OpeningKind[]];
