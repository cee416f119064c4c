/* Groups of pages that share seasons and updates, by what is stated of them or by their paths. */

import type { Groups } from './rows';

/** A part of a site with fewer pages than this has no yardstick of its own. */
const FEWEST_PAGES = 3;

/**
 * Groups pages by their stated group, or else by the first part of their path ("/guides/…"). Pages
 * of small groups, and pages at the top, form group 0. Addresses must be absolute.
 *
 * @param stated the stated group of each page; null if there is none
 */
export function pageGroups(
  addresses: readonly string[],
  stated: readonly (string | null)[] = [],
): Groups & { readonly names: readonly string[] } {
  const parts = addresses.map((address, i) => stated[i] ?? partOf(address));
  const sizes = new Map<string, number>();
  for (const part of parts) sizes.set(part, (sizes.get(part) ?? 0) + 1);
  const names = ['', ...[...sizes].filter(([part, n]) => part !== '' && n >= FEWEST_PAGES).map(([p]) => p)];
  const numberOf = new Map(names.map((name, i) => [name, i]));
  return {
    of: Int32Array.from(parts, (part) => numberOf.get(part) ?? 0),
    count: names.length,
    names,
  };
}

/**
 * The first part of a path, if more follows.
 *
 * @example partOf('https://a.example/guides/x/') // "/guides/"
 */
function partOf(address: string): string {
  const match = /^[^:]+:\/\/[^/]+(\/[^/?#]+\/)[^?#]/.exec(address);
  return match?.[1] ?? '';
}
