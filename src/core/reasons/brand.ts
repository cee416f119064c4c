/**
 * Words that mark a query as a brand query: those that stand both in the site's name and in its host name, or
 * the host name in one word where none does. In lower case, of four letters or more.
 * @example brandWords('Quillow Bee Yard', 'https://www.quillow-bees.example') // ['quillow', 'quillowbees']
 */
export function brandWords(siteName: string, siteAddress: string): string[] {
  const labels = new URL(siteAddress).hostname.replace(/^www\./, '').split('.');
  const label = labels.length > 1 ? labels.at(-2)! : labels[0]!;
  const parts = new Set(label.split('-'));
  const named = wordsOf(siteName).filter((word) => word.length >= 4 && parts.has(word));
  const joined = label.replaceAll('-', '');
  const inName = wordsOf(siteName);
  // “Hive & Honey” at hive-and-honey.example: the whole name is the brand, with or without “and”.
  const isName = [inName.join(''), oneWord(siteName)].includes(joined);
  return [
    ...new Set([...named, ...(isName ? [inName.join(' ')] : []), ...(joined.length >= 4 ? [joined] : [])]),
  ];
}

/**
 * Whether a query is a brand query: it contains a brand word or phrase, also written as one word.
 * “&”, “+” and “and” are the same, and may be missing.
 *
 * @example isBrandQuery('hive and honey hours', ['hive & honey']) // true
 */
export function isBrandQuery(query: string, brands: readonly string[]): boolean {
  const words = wordsOf(query);
  const joined = words.join('');
  return phrasesOf(brands).some(({ phrase, inOneWord }) => {
    if (joined === inOneWord || words.includes(inOneWord)) return true;
    return words.some((_, at) => phrase.every((word, i) => words[at + i] === word));
  });
}

/** A name as one word, with “and” for its sign. */
function oneWord(name: string): string {
  return name
    .toLowerCase()
    .replace(/[&+]/g, 'and')
    .replace(/[^\p{L}\p{N}]+/gu, '');
}

type Phrase = { readonly phrase: readonly string[]; readonly inOneWord: string };

/** The phrases of brand lists: the same list is asked for with every query of a site. */
const known = new WeakMap<readonly string[], readonly Phrase[]>();

function phrasesOf(brands: readonly string[]): readonly Phrase[] {
  const made =
    known.get(brands) ??
    brands.flatMap((brand): Phrase[] => {
      const phrase = wordsOf(brand);
      return phrase.length === 0 ? [] : [{ phrase, inOneWord: phrase.join('') }];
    });
  known.set(brands, made);
  return made;
}

/** The words of a text in lower case, without the word “and” and the signs for it. */
function wordsOf(text: string): string[] {
  return text
    .toLowerCase()
    .split(/[^\p{L}\p{N}]+/u)
    .filter((word) => word !== '' && word !== 'and');
}
