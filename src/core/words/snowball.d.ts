/** The part of the library that is used here; it ships without types of its own. */
declare module 'snowball-stemmers' {
  interface Stemmer {
    stem(word: string): string;
  }
  const library: { newStemmer(language: string): Stemmer };
  export default library;
}

/** Lists of words that only join others, by language. */
declare module 'stopword' {
  export const eng: readonly string[];
}
