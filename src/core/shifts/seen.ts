/* A level shift with what is known to have happened near it. */

import type { Day } from '../calendar/day';
import type { LevelShift } from './levelShifts';

/** What happened near a shift. */
export type Near = {
  readonly kind: 'change' | 'event' | 'difference' | 'title' | 'page' | 'results';
  readonly day: Day;
  readonly text: string;
  /** The change or event, where it is one. */
  readonly id: number | null;
};

export type ShiftSeen = LevelShift & { readonly near: readonly Near[] };
