/* Looking early at a round: how small a p-value has to be before its days are over. */

import { normalCdf } from '../statistics/normal';

/** Height of the boundary on the last day, exceeded by one experiment in ten without any effect. */
const HEIGHT = 2;
/** The first day after settling on which anything is called. */
const FIRST_LOOK = 3;

/**
 * The p-value below which an experiment is plain after `look` of `days` days, allowing for daily
 * looks: early looks need much, the last hardly more than the end itself.
 *
 * Source: O’Brien and Fleming, Biometrics 35 (1979) 549-556, for the shape.
 *
 * @example earlyLevel(28, 28) // 0.046
 * @example earlyLevel(14, 28) // 0.0047
 */
export function earlyLevel(look: number, days: number): number {
  if (look < FIRST_LOOK) return 0;
  return 2 * (1 - normalCdf(HEIGHT * Math.sqrt(days / look)));
}
