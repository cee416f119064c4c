/** The part of the library that is used here; it ships without types of its own. */
declare module 'snowball-stemmers' {
  interface Stemmer {
    stem(word: string): string;
  }
  export function newStemmer(language: string): Stemmer;
}

/** Lists of words that only join others, by language. */
declare module 'stopword' {
  export const eng: readonly string[];
}
