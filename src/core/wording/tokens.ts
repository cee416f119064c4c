/* The words of a title with their places, so that what is shared can be shown where it stands. */

import type { Lexicon } from '../words/stems';

/**
 * A word of a text: its compared form, and its position. Separators and punctuation split segments.
 */
export type Token = {
  readonly word: string;
  readonly stem: string;
  readonly start: number;
  readonly end: number;
  /** The part of the title between two separators that it stands in, from 0. */
  readonly segment: number;
  /** Whether it only joins others. */
  readonly joining: boolean;
};

// Words by the boundaries of Unicode Standard Annex 29: also where none stand between spaces.
const segmenter = new Intl.Segmenter('en', { granularity: 'word' });
const PARTS = /[|–—:;•·»«>/\\[\]{}()?!,…]|\s-\s|\.\s/u;

/**
 * The words of a text, in order.
 *
 * @example tokensOf('Wax: 5 tips', lexicon).map(({ word }) => word) // ["wax", "5", "tips"]
 */
export function tokensOf(text: string, lexicon: Lexicon): Token[] {
  const tokens: Token[] = [];
  let segment = 0;
  let between = 0;
  for (const { segment: written, index, isWordLike } of segmenter.segment(text)) {
    if (!isWordLike) continue;
    if (tokens.length > 0 && PARTS.test(text.slice(between, index))) segment += 1;
    between = index + written.length;
    const word = written.toLowerCase().replace(/['’]s$/u, '');
    const joining = lexicon.joining.has(word);
    tokens.push({ word, stem: lexicon.stem(word), start: index, end: between, segment, joining });
  }
  return tokens;
}
