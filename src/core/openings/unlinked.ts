/* Unlinked: pages of the site that speak of the same and do not link to one another. */

import MiniSearch from 'minisearch';
import { stemOf, tellingWordsOf } from '../words/stems';

/** A page's main text, and the addresses it links to as pages of the site. */
export type LinkedText = {
  readonly pageId: number;
  readonly title: string;
  readonly text: string;
  readonly linksTo: ReadonlySet<number>;
};

/** A page that could link to another, and words that both say, for the link. */
export type LinkCandidate = {
  readonly fromId: number;
  readonly words: readonly string[];
  readonly score: number;
};

/** A page is like another where it scores at least this share of what the page itself does for its own title. */
const LEAST_LIKE = 0.2;
const [MOST_CANDIDATES, MOST_WORDS] = [5, 3];

/**
 * For each of some pages (all unless said otherwise) the others that speak of what its title says, by BM25 over their main texts, and do not link to it; the likest first.
 * Source: Robertson and Zaragoza, The Probabilistic Relevance Framework (2009), as the library has it (BM25+).
 */
export function unlinkedPages(
  pages: readonly LinkedText[],
  targets: readonly number[] = pages.map(({ pageId }) => pageId),
): Map<number, { readonly linkedFrom: number; readonly candidates: LinkCandidate[] }> {
  const index = new MiniSearch<{ id: number; title: string; text: string }>({
    fields: ['title', 'text'],
    tokenize: (text) => tellingWordsOf(text),
    processTerm: (term) => stemOf(term),
  });
  index.addAll(pages.map(({ pageId, title, text }) => ({ id: pageId, title, text })));
  const usual = wordsOfMany(pages.map(({ title }) => title));
  const byId = new Map(pages.map((page) => [page.pageId, page]));
  const linkedFrom = new Map<number, number>();
  for (const { pageId, linksTo } of pages)
    for (const to of linksTo) if (to !== pageId) linkedFrom.set(to, (linkedFrom.get(to) ?? 0) + 1);
  return new Map(
    targets.map((pageId) => {
      const whole = byId.get(pageId)!.title;
      const telling = tellingWordsOf(whole).filter((word) => !usual.has(stemOf(word)));
      const title = telling.length > 0 ? telling.join(' ') : whole;
      const found = index.search(title, { combineWith: 'OR' });
      const own = found.find(({ id }) => id === pageId)?.score ?? found[0]?.score ?? 0;
      const candidates = found
        .filter(({ id, score }) => id !== pageId && score >= LEAST_LIKE * own)
        .filter(({ id }) => !byId.get(id as number)!.linksTo.has(pageId))
        .slice(0, MOST_CANDIDATES)
        .map(({ id, score, terms }) => ({
          ...{ fromId: id as number, score },
          words: wordsFor(title, new Set(terms)).slice(0, MOST_WORDS),
        }));
      return [pageId, { linkedFrom: linkedFrom.get(pageId) ?? 0, candidates }] as const;
    }),
  );
}

/** A word in so many of the titles, such as the site's own name, tells no page from others. */
const USUAL_SHARE = 0.3;

function wordsOfMany(titles: readonly string[]): Set<string> {
  const counts = new Map<string, number>();
  for (const title of titles)
    for (const stem of new Set(tellingWordsOf(title).map(stemOf)))
      counts.set(stem, (counts.get(stem) ?? 0) + 1);
  return new Set(
    [...counts].filter(([, n]) => n > 3 && n > USUAL_SHARE * titles.length).map(([stem]) => stem),
  );
}

/** The words of a title whose stems both pages have, in the title's order: words for the link. */
function wordsFor(title: string, stems: ReadonlySet<string>): string[] {
  return [...new Set(tellingWordsOf(title).filter((word) => stems.has(stemOf(word))))];
}
