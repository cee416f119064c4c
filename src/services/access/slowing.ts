import { namedError } from '../../core/errors';
import ipaddr from 'ipaddr.js';
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
 * Failures are counted per account and network, per account, and per network. An IPv6 /64 is one
 * network, since whoever holds one address of it holds them all. Known devices are counted
 * separately, so that nobody can lock somebody else out. Counts are lost on restart, which nobody
 * outside can trigger.
 */
const LIMITS = {
  pair: new RateLimiterMemory({ points: 5, duration: QUARTER, blockDuration: QUARTER }),
  who: new RateLimiterMemory({ points: 50, duration: 3600, blockDuration: QUARTER }),
  from: new RateLimiterMemory({ points: 40, duration: QUARTER, blockDuration: QUARTER }),
};

// Of bundles that are loaded twice, one counts.
const shared = globalThis as { __tallyTries?: typeof LIMITS };
const limits = (shared.__tallyTries ??= LIMITS);

/** The account, address and known device of an attempt. */
export type Tried = { readonly who: string; readonly from: string; readonly device?: string | null };

/** Bits of an IPv6 address that are one customer's network (RFC 6177 speaks of a /64 at least). */
const NETWORK_BITS = 64;

/** Returns the network of an IPv6 address, or the IPv4 address itself. */
export function networkOf(from: string): string {
  if (!ipaddr.isValid(from)) return from;
  const address = ipaddr.process(from);
  if (address.kind() === 'ipv4') return address.toString();
  return ipaddr.IPv6.networkAddressFromCIDR(`${address.toString()}/${NETWORK_BITS}`).toString();
}

// Keys are digests, so that no address of anybody is kept, and none is long.
function keysOf({ who, from, device }: Tried): readonly (readonly [RateLimiterMemory, string])[] {
  if (device != null) return [[limits.pair, digestOf(`${who}\ndevice ${device}`)]];
  const place = networkOf(from);
  return [
    [limits.pair, digestOf(`${who}\n${place}`)],
    [limits.who, digestOf(who)],
    [limits.from, digestOf(place)],
  ];
}

/**
 * Runs an attempt that returns null on failure. Throws TooManyTries after too many failures; a
 * success clears the failures of this subject from there.
 */
export async function slowed<T>(tried: Tried, attempt: () => Promise<T | null>): Promise<T | null> {
  const keys = keysOf(tried);
  // Counted before the result is known: many attempts at once would otherwise all pass.
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
