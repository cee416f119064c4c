/**
 * Words of a text: runs of letters and digits, in lower case.
 *
 * @example wordsOf('/guides/mead-basics/') // ["guides", "mead", "basics"]
 */
export function wordsOf(text: string): string[] {
  return text.toLowerCase().match(/[\p{L}\p{N}]+/gu) ?? [];
}

/**
 * How well typed text matches a name; 0 is best, null no match. Typed words match beginnings of
 * words, and all must match. Exact names come first, then names that begin with the text, then
 * names with words that do, shorter ones first, then names that contain it; matches in the details
 * only come last.
 *
 * @example findRank('mead', '/guides/mead-basics/')! < findRank('mead', 'Settings', 'mead')! //
 *   true
 */
export function findRank(typed: string, name: string, detail = ''): number | null {
  const wanted = wordsOf(typed);
  const words = wordsOf(name);
  if (wanted.length === 0) return 0;
  const [whole, own] = [wanted.join(' '), words.join(' ')];
  // Among equals the one with the least besides what was typed is the closest.
  const surplus = 1 - whole.length / Math.max(whole.length, own.length, 1);
  if (own === whole) return 0;
  if (own.startsWith(whole)) return 1 + surplus;
  const begins = (list: readonly string[]) => (word: string) => list.some((one) => one.startsWith(word));
  if (wanted.every(begins(words))) return 2 + surplus;
  if (own.includes(whole) || name.toLowerCase().includes(typed.trim().toLowerCase())) return 3 + surplus;
  return wanted.every(begins([...words, ...wordsOf(detail)])) ? 4 + surplus : null;
}
