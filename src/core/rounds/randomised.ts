/* Whether the halves of a round were drawn before anything was done. */

import type { Day } from '../calendar/day';
import type { Draw, Round } from '../model/round';

/**
 * The first day on which work was recorded before the halves were drawn; null where there was
 * none.
 */
export function workBeforeDraw({ draw, day, pages }: Round): Day | null {
  if (draw !== 'halves') return null;
  const early = pages.flatMap(({ steps: { made } }) => (made !== undefined && made < day ? [made] : []));
  return early.length > 0 ? (Math.min(...early) as Day) : null;
}

/**
 * How the halves count when a round is read. A draw after the work began decided nothing, so its
 * halves count as chosen by hand: no pairs, and no claim to be random.
 */
export function drawAsRead(round: Round): Draw {
  return workBeforeDraw(round) === null ? round.draw : 'by-hand';
}
