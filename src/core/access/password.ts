/** OWASP ASVS 4.0.3, 2.1.1 and 2.1.2: at least twelve characters; 64 must be possible, more than 128 must not. */
export const SHORTEST_PASSWORD = 12;
export const LONGEST_PASSWORD = 128;

/**
 * What is wrong with a password that somebody wants to have, in a sentence; null where nothing is. Nothing is asked of its
 * letters but that it is long and not one that everybody tries first (ASVS 2.1.7 and 2.1.9).
 *
 * @param common the passwords that are tried first, in small letters
 * @param own what everybody knows of the one whose it is: name and address
 * @example passwordProblem('quiet smoker on the hill', new Set(), []) // null
 */
export function passwordProblem(
  password: string,
  common: ReadonlySet<string>,
  own: readonly string[],
): string | null {
  const length = [...password].length;
  if (length < SHORTEST_PASSWORD)
    return `A password has at least ${SHORTEST_PASSWORD} characters; three or four words will do.`;
  if (length > LONGEST_PASSWORD) return `A password has at most ${LONGEST_PASSWORD} characters.`;
  const plain = password.toLowerCase();
  // “passwordpassword” and “summer2026summer” are no harder to guess than their parts.
  const parts = [plain, plain.replace(/[^a-z]+/g, ''), repeated(plain)];
  if (parts.some((part) => common.has(part)))
    return 'This password is on the list of those that are tried first. Choose another.';
  if (new Set(plain).size < 5) return 'This password is made of too few different characters.';
  const known = own.map((text) => text.toLowerCase()).filter((text) => text.length >= 4);
  if (known.some((text) => plain === text || (plain.includes(text) && plain.length < text.length + 6)))
    return 'This password is hardly more than your own name or address.';
  return null;
}

/** What a text is that stands there several times; itself where it does once. */
function repeated(text: string): string {
  const period = (text + text).indexOf(text, 1);
  return text.slice(0, period);
}
