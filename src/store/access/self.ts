import { randomBytes, timingSafeEqual } from 'node:crypto';

/** The header by which the program asks itself, to have things ready before somebody needs them. */
export const SELF_HEADER = 'x-tally-self';

// Known to this process alone, and only for as long as it runs.
const shared = globalThis as { __tallySelf?: string };
export const selfKey = (): string => (shared.__tallySelf ??= randomBytes(32).toString('base64url'));

/** Whether a request comes from the program itself. */
export function isSelf(headers: Headers): boolean {
  const said = Buffer.from(headers.get(SELF_HEADER) ?? '');
  const key = Buffer.from(selfKey());
  return said.length === key.length && timingSafeEqual(said, key);
}
