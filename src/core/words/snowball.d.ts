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
  export const deu: readonly string[];
  export const fra: readonly string[];
  export const spa: readonly string[];
  export const ita: readonly string[];
}
