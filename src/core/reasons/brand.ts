/**
 * Words by which searches for the site itself are known: those that stand both in its name and in its host name, or
 * the host name in one word where none does. In lower case, of four letters or more.
 * @example brandWords('Quillow Bee Yard', 'https://www.quillow-bees.example') // ['quillow', 'quillowbees']
 */
export function brandWords(siteName: string, siteAddress: string): string[] {
  const labels = new URL(siteAddress).hostname.replace(/^www\./, '').split('.');
  const label = labels.length > 1 ? labels.at(-2)! : labels[0]!;
  const parts = new Set(label.split('-'));
  const named = siteName
    .toLowerCase()
    .split(/[^\p{L}\p{N}]+/u)
    .filter((word) => word.length >= 4 && parts.has(word));
  const joined = label.replaceAll('-', '');
  return [...new Set([...named, ...(joined.length >= 4 ? [joined] : [])])];
}

/** Whether a search is for the site itself: it holds one of the brand words, also with its words written together. */
export function isBrandQuery(query: string, words: readonly string[]): boolean {
  const text = query.toLowerCase();
  const joined = text.replace(/[^\p{L}\p{N}]+/gu, '');
  return words.some((word) => text.split(/[^\p{L}\p{N}]+/u).includes(word) || joined === word);
}
