/* Looking early at a round: how small a p-value has to be before its days are over. */

import { normalCdf } from '../statistics/normal';

/** The height of the boundary on the last day: what one set of daily looks in ten exceeds where nothing was done. */
const HEIGHT = 2;
/** The first day after settling on which anything is called. */
const FIRST_LOOK = 3;

/**
 * The p-value below which a round is plain after `look` of `days` days, even allowing for daily looks: the first looks need much, the last hardly more than the
 * end itself. Source: O'Brien and Fleming, Biometrics 35 (1979) 549-556, for the shape.
 * @example earlyLevel(28, 28) // 0.046
 * @example earlyLevel(14, 28) // 0.0047
 */
export function earlyLevel(look: number, days: number): number {
  if (look < FIRST_LOOK) return 0;
  return 2 * (1 - normalCdf(HEIGHT * Math.sqrt(days / look)));
}
