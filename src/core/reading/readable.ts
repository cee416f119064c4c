import { addDays, type Day } from '../calendar/day';

/**
 * Days until a source publishes a day’s figures. Common practice, no published source: daily search
 * figures arrive two to three days late.
 */
export const USUAL_DELAY_DAYS = 2;

/** How far a site's figures reach, and the day on which the newest of them were brought in. */
export type Coverage = { readonly lastDay: Day; readonly takenOn: Day };

/**
 * The newest day that may be read. The newest `provisionalDays` of a fresh feed are still revised
 * at the source: shown, not read. Figures imported long after their last day are final throughout.
 */
export function lastReadableDay(coverage: Coverage, provisionalDays: number): Day {
  const oldEnough = addDays(coverage.takenOn, -(USUAL_DELAY_DAYS + provisionalDays));
  const bound = Math.max(coverage.lastDay - provisionalDays, Math.min(oldEnough, coverage.lastDay));
  return bound as Day;
}

/** The first day on which figures for `day` are expected to be there and final. */
export function finalOn(day: Day, provisionalDays: number): Day {
  return addDays(day, USUAL_DELAY_DAYS + provisionalDays);
}
