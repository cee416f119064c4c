import type { Principal } from '@/core/access/rights';
import { Problem } from '@/app/problem';

/** The person who asks, for what is about their own account. Throws Problem for whoever has none. */
export function personOf(asker: Principal): Extract<Principal, { kind: 'person' }> {
  if (asker.kind === 'person') return asker;
  throw new Problem(409, 'This is about an account of your own, and you are not signed in to one.');
}
