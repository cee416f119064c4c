import { getPriority, setPriority } from 'node:os';

/** A thread of the usual priority, 0, gets nine times as much of a core. */
const BACKGROUND = 10;

/**
 * Runs long work at a lower priority than answers, in a thread of its own. On Linux priorities
 * belong to threads. If the priority couldn’t be raised again (an account without the right, see
 * docs/running.md), and on other systems, the work runs at the normal one.
 */
export async function inBackground<T>(work: () => Promise<T>): Promise<T> {
  const usual = getPriority();
  if (!canComeBackFrom(usual)) return work();
  setPriority(BACKGROUND);
  try {
    return await work();
  } finally {
    setPriority(usual);
  }
}

/** Gives a thread that does nothing but long work the lower priority for as long as it is there. */
export function intoBackground(): void {
  if (process.platform === 'linux' && getPriority() < BACKGROUND) setPriority(BACKGROUND);
}

/** Whether a lower priority can be given back, tried by a single step. */
function canComeBackFrom(usual: number): boolean {
  if (process.platform !== 'linux' || usual >= BACKGROUND) return false;
  try {
    setPriority(usual + 1);
    setPriority(usual);
    return true;
  } catch {
    return false;
  }
}
