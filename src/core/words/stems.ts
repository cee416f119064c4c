/* Stems of words, so that singular and plural, and British and American spellings, count as one. */

import { newStemmer } from 'snowball-stemmers';
import { deu, eng, fra, ita, spa } from 'stopword';
import { wordsOf } from './find';
import type { Language } from '../model/languages';

/** Words that only join others, by language, as the library lists them. */
export const JOINING_WORDS: Readonly<Record<Language, readonly string[]>> = {
  en: eng,
  de: deu,
  fr: fra,
  es: spa,
  it: ita,
};

const ALGORITHMS: Readonly<Record<Language, string>> = {
  ...{ en: 'english', de: 'german', fr: 'french' },
  ...{ es: 'spanish', it: 'italian' },
};

/** British endings and their American equivalents. Common practice, no published source. */
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

/** The words of a language, as they are compared. */
export type Lexicon = {
  /** The stem of a word, one for the spellings of both countries. */
  stem(word: string): string;
  /** Words that only join others. */
  readonly joining: ReadonlySet<string>;
};

const MOST_STEMS = 50_000;

/**
 * The words of a language, with other words than the usual ones that only join, where they are given. Stems are the Snowball project's
 * (https://snowballstem.org); of English, British and American spellings have one stem.
 * @example lexiconOf('en').stem('colour') === lexiconOf('en').stem('colors') // true
 */
export function lexiconOf(language: Language, joining: readonly string[] = JOINING_WORDS[language]): Lexicon {
  const stemmer = newStemmer(ALGORITHMS[language]);
  // The words of a site's pages are mostly the same few thousand.
  const stems = new Map<string, string>();
  return {
    joining: new Set(joining),
    stem(word) {
      const known = stems.get(word);
      if (known !== undefined) return known;
      const plain = word.toLowerCase();
      const stem = stemmer.stem(language === 'en' ? oneSpelling(plain) : plain);
      if (stems.size > MOST_STEMS) stems.clear();
      stems.set(word, stem);
      return stem;
    },
  };
}

function oneSpelling(word: string): string {
  if (NO_VARIANTS.has(word)) return word;
  return VARIANTS.reduce((plain, [british, american]) => plain.replace(british, american), word);
}

/** English as it comes. */
export const ENGLISH = lexiconOf('en');

/** Content words of a text, in order: without stop words, unless there is nothing else. */
export function tellingWordsOf(text: string, { joining } = ENGLISH): string[] {
  const words = wordsOf(text);
  const telling = words.filter((word) => !joining.has(word));
  return telling.length > 0 ? telling : words;
}
