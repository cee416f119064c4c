/* Words by their stems, so that singular and plural, and spellings of two countries, count as one word. */

import { newStemmer } from 'snowball-stemmers';
import { eng } from 'stopword';
import { wordsOf } from './find';

const STOP = new Set<string>(eng);
const stemmer = newStemmer('english');

/** British endings and the American ones that stand for the same: common practice, no published source. */
const VARIANTS: readonly (readonly [RegExp, string])[] = [
  [/([a-z]{2,})our(s|ed|ing|ful|less|ite|able)?$/, '$1or$2'],
  [/([a-z]{3,})is(e|es|ed|ing|er|ers|ation|ations)$/, '$1iz$2'],
  [/([a-z]{3,})yse(s|d)?$/, '$1yze$2'],
  [/([a-z]{2,}[bct])re(s)?$/, '$1er$2'],
  [/([a-z]{3,})ogue(s)?$/, '$1og$2'],
  [/([a-z]{2,}[aeiou])ll(ed|ing|er|ers)$/, '$1l$2'],
  [/^grey/, 'gray'],
  [/^mould/, 'mold'],
  [/^plough/, 'plow'],
];
/** Words that end like a variant and are none. */
const NO_VARIANTS = new Set([
  'four',
  'hour',
  'hours',
  'our',
  'your',
  'tour',
  'tours',
  'pour',
  'sour',
  'flour',
  'raise',
  'wise',
  'rise',
  'noise',
  'promise',
  'exercise',
  'surprise',
  'advise',
  'otherwise',
  'precise',
  'acre',
  'acres',
  'genre',
]);

/**
 * The stem of a word, one for the spellings of both countries.
 * @example stemOf('candles') === stemOf('candle') // true; stemOf('colour') === stemOf('colors') // true
 */
export function stemOf(word: string): string {
  const known = STEMS.get(word);
  if (known !== undefined) return known;
  let plain = word.toLowerCase();
  if (!NO_VARIANTS.has(plain))
    for (const [british, american] of VARIANTS) plain = plain.replace(british, american);
  const stem = stemmer.stem(plain);
  // The words of a site's pages are mostly the same few thousand.
  if (STEMS.size > MOST_STEMS) STEMS.clear();
  STEMS.set(word, stem);
  return stem;
}

const STEMS = new Map<string, string>();
const MOST_STEMS = 50_000;

/** The words of a text that say something, in their order: those that only join others are left out, unless there are no others. */
export function tellingWordsOf(text: string): string[] {
  const words = wordsOf(text);
  const telling = words.filter((word) => !STOP.has(word));
  return telling.length > 0 ? telling : words;
}

/** The stems of a text. */
export function stemsOf(text: string): Set<string> {
  return new Set(wordsOf(text).map(stemOf));
}
