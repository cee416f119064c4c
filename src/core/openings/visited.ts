/* Visited, not bought: pages whose visits bring fewer conversions than chance allows. */

import { scoreInterval } from '../statistics/proportion';

export type Visits = { readonly sessions: number; readonly conversions: number };

/** How sure it has to be that a page converts less than the site. */
const LEVEL = 0.95;

/**
 * Conversions that a page lacks at the site’s usual rate, with the range of its score interval;
 * null if chance would explain it.
 *
 * Source: Newcombe, Statistics in Medicine 17 (1998) 857-872 (score interval).
 *
 * @example lackingConversions({ sessions: 1000, conversions: 0 }, 0.02) // about 20, at least 16
 */
export function lackingConversions(
  { sessions, conversions }: Visits,
  usual: number,
): { readonly conversions: number; readonly low: number; readonly high: number } | null {
  if (sessions <= 0 || conversions > sessions) return null;
  const { low, high } = scoreInterval(conversions, sessions, LEVEL);
  if (high >= usual) return null;
  const lacking = (rate: number) => Math.max(0, usual - rate) * sessions;
  return { conversions: lacking(conversions / sessions), low: lacking(high), high: lacking(low) };
}

/**
 * Share of a query in what a landing page earns: its clicks over the sessions of the page. Common
 * practice, no published source.
 *
 * @example shareOfRevenue(800, 29000) // 0.0276
 */
export function shareOfRevenue(clicks: number, sessions: number): number | null {
  return sessions > 0 ? Math.min(1, clicks / sessions) : null;
}
