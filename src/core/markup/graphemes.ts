const graphemes = new Intl.Segmenter('en', { granularity: 'grapheme' });
const words = new Intl.Segmenter('en', { granularity: 'word' });

/**
 * The number of characters a reader sees: extended grapheme clusters (Unicode Standard Annex 29).
 *
 * @example characterCount('e\u0301') // 1
 */
export function characterCount(text: string): number {
  return [...graphemes.segment(text)].length;
}

/**
 * The number of words by the word boundaries of Unicode Standard Annex 29, also in scripts without
 * spaces.
 */
export function wordCount(text: string): number {
  return [...words.segment(text)].filter(({ isWordLike }) => isWordLike).length;
}
