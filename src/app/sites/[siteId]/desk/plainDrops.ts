import { setTimeout as pause } from 'node:timers/promises';
import { ask } from '@/app/ask';
import type { Day } from '@/core/calendar/day';

/** How long a screen waits for them. Just after a start, or when figures came in, readings are being made. */
const PATIENCE_MS = 1000;

/**
 * The changes of a site that plainly brought a drop before their days are over, and since when. While the readings are still being made
 * none is known, and the desk comes without them rather than late.
 */
export async function plainDropsOf(siteId: number): Promise<ReadonlyMap<number, Day>> {
  // Where they cannot be had the desk still has all the rest; the ledger says what is wrong.
  const known = ask('plainDrops', { siteId }).catch(() => null);
  return new Map((await Promise.race([known, pause(PATIENCE_MS, null, { ref: false })])) ?? []);
}
