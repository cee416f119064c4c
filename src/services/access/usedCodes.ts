import { LRUCache } from 'lru-cache';
import { digestOf } from '../../store/access/secret';

/** A code is taken from half a minute before its own to half a minute after it. */
const TAKEN_FOR_MS = 90_000;
const MOST_CODES = 10_000;

// Of bundles that are loaded twice, one remembers.
const shared = globalThis as { __tallyCodes?: LRUCache<string, true> };
const used = (shared.__tallyCodes ??= new LRUCache<string, true>({ max: MOST_CODES, ttl: TAKEN_FOR_MS }));

/**
 * Lets a one-time code of somebody open once, whatever it is that it opens: while it is tried, and
 * as long as it could be taken after it opened something, nothing opens by it again. `open` gives
 * null where it opened nothing, as this does for a code that was used. Source: RFC 6238, section
 * 5.2.
 */
export async function once<T>(
  userId: string,
  code: string,
  open: () => Promise<T | null>,
): Promise<T | null> {
  const key = digestOf(`${userId}\n${code}`);
  if (used.has(key)) return null;
  used.set(key, true);
  let opened: T | null = null;
  try {
    return (opened = await open());
  } finally {
    if (opened === null) used.delete(key);
  }
}
