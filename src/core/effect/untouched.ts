/* Untouched rows: which were left alone around a day, so that they show what happens anyway. */

import type { Day } from '../calendar/day';
import type { Horizon } from './kriging';
import type { Rows } from './rows';

/**
 * Days before a change in which the row must be unchanged as well. After that its new level is
 * known, and forecasts start from there.
 */
const SETTLED_DAYS = 42;

/** 1 for each row that was not changed from six weeks before `day` to the end of the horizon. */
export function untouched({ history, touched }: Rows, day: Day, { settlingDays, days }: Horizon): Uint8Array {
  const lastDay = day + settlingDays + days - 1;
  return Uint8Array.from({ length: history.rows }, (_, row) => {
    const next = touched.firstFrom(row, day - SETTLED_DAYS);
    return next === null || next > lastDay ? 1 : 0;
  });
}
