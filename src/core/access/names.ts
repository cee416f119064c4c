/** What people call a token in histories: nobody may be called so. */
export function tokenLabel(name: string): string {
  return `token “${name}”`;
}

/**
 * The form in which names of people are compared: letter case, spaces, characters that are not seen
 * and ways of writing the same character (Unicode's compatibility composition, NFKC) make no other
 * name.
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

/** Whether a name reads like that of a token. */
export function readsLikeToken(name: string): boolean {
  return /^token\b/.test(nameKey(name));
}
