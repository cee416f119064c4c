const graphemes = new Intl.Segmenter('en', { granularity: 'grapheme' });
const words = new Intl.Segmenter('en', { granularity: 'word' });

/**
 * How many characters a reader sees in a text: extended grapheme clusters (Unicode Standard Annex 29).
 * @example characterCount('e\u0301') // 1
 */
export function characterCount(text: string): number {
  return [...graphemes.segment(text)].length;
}

/** How many words a text has, by the word boundaries of Unicode Standard Annex 29; also where none stand between spaces. */
export function wordCount(text: string): number {
  return [...words.segment(text)].filter(({ isWordLike }) => isWordLike).length;
}
