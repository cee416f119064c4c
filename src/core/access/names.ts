/** How histories name a token. Reserved, see `readsLikeToken`. */
export function tokenLabel(name: string): string {
  return `token “${name}”`;
}

/**
 * Returns the form in which people's names are compared. Ignores letter case, spacing, invisible
 * characters and Unicode compatibility variants (NFKC).
 *
 * @example nameKey(' m  K ') === nameKey('M k')
 */
export function nameKey(name: string): string {
  return name
    .normalize('NFKC')
    .replace(/\p{Cf}/gu, '')
    .replace(/\s+/g, ' ')
    .trim()
    .toLowerCase();
}

/** Whether a name could be mistaken for a token's. */
export function readsLikeToken(name: string): boolean {
  return /^token\b/.test(nameKey(name));
}
