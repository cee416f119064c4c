import { namedError } from '../../core/errors';
import { RateLimiterMemory, type RateLimiterRes } from 'rate-limiter-flexible';
import { digestOf } from '../../store/access/secret';

/** Too many tries have failed; the message says when the next one is let through. */
export class TooManyTries extends namedError('TooManyTries') {
  constructor(readonly seconds: number) {
    const minutes = Math.ceil(seconds / 60);
    super(`Too many tries have failed. Try again in ${minutes} ${minutes === 1 ? 'minute' : 'minutes'}.`);
  }
}

const QUARTER = 15 * 60;

/*
 * Failures are counted by who is tried from where, so that nobody can lock somebody else out; by who is tried from anywhere; and
 * by where from. What is counted is forgotten when the program ends, which nobody outside can have it do.
 */
const LIMITS = {
  pair: new RateLimiterMemory({ points: 5, duration: QUARTER, blockDuration: QUARTER }),
  who: new RateLimiterMemory({ points: 50, duration: 3600, blockDuration: QUARTER }),
  from: new RateLimiterMemory({ points: 40, duration: QUARTER, blockDuration: QUARTER }),
};

// Of bundles that are loaded twice, one counts.
const shared = globalThis as { __tallyTries?: typeof LIMITS };
const limits = (shared.__tallyTries ??= LIMITS);

/** Whose door is tried, and from which address. */
export type Tried = { readonly who: string; readonly from: string };

// Keys are digests, so that no address of anybody is kept, and none is long.
const keysOf = ({ who, from }: Tried) =>
  [
    [limits.pair, digestOf(`${who}\n${from}`)],
    [limits.who, digestOf(who)],
    [limits.from, digestOf(from)],
  ] as const;

/**
 * Runs a try that gives null where it failed. Throws TooManyTries where too many have failed before it; a try that succeeds wipes
 * the failures of this one from there.
 */
export async function slowed<T>(tried: Tried, attempt: () => Promise<T | null>): Promise<T | null> {
  const keys = keysOf(tried);
  // Counted before it is known whether it is right: many at once would otherwise all be let through.
  for (const [limit, key] of keys) await limit.consume(key).catch(refuse);
  const result = await attempt();
  if (result !== null)
    for (const [limit, key] of keys) await (limit === limits.pair ? limit.delete(key) : limit.reward(key));
  return result;
}

function refuse(why: unknown): never {
  // Its own class is that of the bundle that made the limits.
  if (why instanceof Error) throw why;
  throw new TooManyTries(Math.ceil((why as RateLimiterRes).msBeforeNext / 1000));
}
