import { diffWordsWithSpace } from 'diff';

/** A piece of two texts: in both, only in the old (went), or only in the new (came). */
export type ComparedPiece = { readonly text: string; readonly kind: 'same' | 'went' | 'came' };

/** Longer texts are compared whole, since comparing words takes the square of their number. */
const MOST_CHARACTERS = 10_000;

/**
 * Compares two texts word by word. Pieces that weren’t added make up the old text, pieces that
 * weren’t removed the new one.
 *
 * @example compareTexts('a big hive', 'a small hive') // "a ", went "big", came "small", " hive"
 */
export function compareTexts(before: string, after: string): ComparedPiece[] {
  if (before.length + after.length > MOST_CHARACTERS)
    return [
      { text: before, kind: 'went' },
      { text: after, kind: 'came' },
    ];
  return diffWordsWithSpace(before, after).map(({ value, added, removed }) => ({
    text: value,
    kind: added ? 'came' : removed ? 'went' : 'same',
  }));
}
