/* Whether a page says what it is shown for: in its title, a heading, its text, or only in parts. */

import type { PageEvidence } from '../model/evidence';
import { wordsOf } from './find';
import { ENGLISH, tellingWordsOf, type Lexicon } from './stems';

/**
 * Where a page has the words of a query, most prominent place first; `parts` if only some,
 * `nowhere` if none.
 */
export type SaidWhere = 'title' | 'h1' | 'heading' | 'text' | 'parts' | 'nowhere';

export type Said = {
  readonly where: SaidWhere;
  /** Words of the search that the page says nowhere. */
  readonly missing: readonly string[];
  /** Whether it says all of them, but some in another form or spelling. */
  readonly otherwise: boolean;
};

/** What a page says, as stems, made once for all of its searches. */
export type PageWords = {
  readonly places: readonly (readonly [
    where: 'title' | 'h1' | 'heading' | 'text',
    stems: ReadonlySet<string>,
  ])[];
  /** All words as they are written, and all stems. */
  readonly words: ReadonlySet<string>;
  readonly stems: ReadonlySet<string>;
  /** The words of its language. */
  readonly lexicon: Lexicon;
};

/** The words of a page. */
export function pageWords(
  { title, headings, text, description }: PageEvidence,
  lexicon: Lexicon = ENGLISH,
): PageWords {
  const level = (wanted: (level: number) => boolean) =>
    headings
      .filter((heading) => wanted(heading.level))
      .map((heading) => heading.text)
      .join(' ');
  const parts = [
    ['title', title ?? ''],
    ['h1', level((one) => one === 1)],
    ['heading', level((one) => one > 1)],
    ['text', text],
  ] as const;
  const [words, stems] = [new Set<string>(), new Set<string>()];
  const stemsSaid = (part: string) => {
    const said = new Set<string>();
    for (const word of wordsOf(part)) {
      const stem = lexicon.stem(word);
      words.add(word);
      stems.add(stem);
      said.add(stem);
    }
    return said;
  };
  const places = parts.map(([where, part]) => [where, stemsSaid(part)] as const);
  stemsSaid(description ?? '');
  return { places, words, stems, lexicon };
}

/**
 * Whether a page says a search: all of its telling words in one place, by their stems.
 * @example saidOn(pageWords(page), 'colour of wax') // { where: 'title', missing: [], otherwise: true } where the title has "Wax colors"
 */
export function saidOn(page: PageWords, query: string): Said {
  const words = tellingWordsOf(query, page.lexicon);
  const stems = words.map((word) => page.lexicon.stem(word));
  const missing = words.filter((_, i) => !page.stems.has(stems[i]!));
  const otherwise = missing.length === 0 && !words.every((word) => page.words.has(word));
  const place = page.places.find(([, said]) => stems.every((stem) => said.has(stem)));
  const where = place ? place[0] : missing.length === words.length ? 'nowhere' : 'parts';
  return { where, missing, otherwise };
}
