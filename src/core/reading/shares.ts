/** Impressions by the parts of a whole (devices or countries) in the two spans of a reading. */
export type PartShares = {
  readonly by: 'device' | 'country';
  readonly parts: readonly { readonly name: string; readonly before: number; readonly after: number }[];
};

/** Smallest shift of impression shares worth mentioning: a tenth of all impressions. */
export const SHARES_MOVED = 0.1;

/**
 * The part with the largest change of its impression share, as a difference of shares; null if
 * shares changed by less than SHARES_MOVED in total (half the sum of differences), or a side has no
 * impressions.
 */
export function movedShare({ parts }: PartShares): { name: string; before: number; after: number } | null {
  const sum = (side: 'before' | 'after') => parts.reduce((total, part) => total + part[side], 0);
  const [before, after] = [sum('before'), sum('after')];
  if (before === 0 || after === 0) return null;
  const shares = parts.map((part) => ({
    name: part.name,
    before: part.before / before,
    after: part.after / after,
  }));
  const moved = shares.reduce((total, share) => total + Math.abs(share.after - share.before), 0) / 2;
  if (moved < SHARES_MOVED) return null;
  // Where two moved alike, the first is named.
  const size = (share: (typeof shares)[number]) => Math.abs(share.after - share.before);
  return shares.reduce((a, b) => (size(b) > size(a) + 1e-9 ? b : a));
}
