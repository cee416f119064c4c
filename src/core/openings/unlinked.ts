/* Unlinked: pages of the site that speak of the same and do not link to one another. */

import MiniSearch from 'minisearch';
import { ENGLISH, tellingWordsOf, type Lexicon } from '../words/stems';

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

/** Share of a page’s score for its own title from which another page is similar. */
const LEAST_LIKE = 0.2;
const [MOST_CANDIDATES, MOST_WORDS] = [5, 3];

/** What links to a page, and what could. */
export type PageLinks = {
  /** Pages of the site that link to it. */
  readonly linkedFrom: readonly number[];
  /** Pages that speak of it and do not link to it, the likest first. */
  readonly candidates: readonly LinkCandidate[];
};

/**
 * Finds pages about the title of another by BM25 over their main texts. Built once, then queried
 * page by page.
 *
 * Source: Robertson and Zaragoza, The Probabilistic Relevance Framework (2009), as the library
 * implements it (BM25+).
 */
export class LinkIndex {
  private readonly index: MiniSearch<{ id: number; title: string; text: string }>;
  private readonly usual: ReadonlySet<string>;
  private readonly titles = new Map<number, string>();
  private readonly linksTo = new Map<number, ReadonlySet<number>>();

  constructor(
    pages: readonly LinkedText[],
    private readonly lexicon: Lexicon = ENGLISH,
  ) {
    this.index = new MiniSearch({
      fields: ['title', 'text'],
      tokenize: (text) => tellingWordsOf(text, lexicon),
      processTerm: (term) => lexicon.stem(term),
    });
    this.index.addAll(pages.map(({ pageId, title, text }) => ({ id: pageId, title, text })));
    this.usual = wordsOfMany(
      pages.map(({ title }) => title),
      lexicon,
    );
    for (const { pageId, title, linksTo } of pages) {
      this.titles.set(pageId, title);
      this.linksTo.set(pageId, linksTo);
    }
  }

  /** How many pages there are. */
  get total(): number {
    return this.titles.size;
  }

  /** How many pages say a stem, in their title or their text. */
  saying(stem: string): number {
    return this.index.search(stem, { tokenize: (text) => [text], processTerm: (term) => term }).length;
  }

  /** What links to a page and what could; null of a page that is not among them. */
  of(pageId: number): PageLinks | null {
    const whole = this.titles.get(pageId);
    if (whole === undefined) return null;
    const linkedFrom = [...this.linksTo].flatMap(([from, to]) =>
      from !== pageId && to.has(pageId) ? [from] : [],
    );
    const { lexicon } = this;
    const telling = tellingWordsOf(whole, lexicon).filter((word) => !this.usual.has(lexicon.stem(word)));
    const title = telling.length > 0 ? telling.join(' ') : whole;
    const found = this.index.search(title, { combineWith: 'OR' });
    const own = found.find(({ id }) => id === pageId)?.score ?? found[0]?.score ?? 0;
    const candidates = found
      .filter(({ id, score }) => id !== pageId && score >= LEAST_LIKE * own)
      .filter(({ id }) => !this.linksTo.get(id as number)!.has(pageId))
      .slice(0, MOST_CANDIDATES)
      .map(({ id, score, terms }) => ({
        ...{ fromId: id as number, score },
        words: wordsFor(title, new Set(terms), lexicon).slice(0, MOST_WORDS),
      }));
    return { linkedFrom, candidates };
  }
}

/** A word in so many of the titles, such as the site's own name, tells no page from others. */
const USUAL_SHARE = 0.3;

function wordsOfMany(titles: readonly string[], lexicon: Lexicon): Set<string> {
  const counts = new Map<string, number>();
  for (const title of titles)
    for (const stem of new Set(tellingWordsOf(title, lexicon).map((word) => lexicon.stem(word))))
      counts.set(stem, (counts.get(stem) ?? 0) + 1);
  return new Set(
    [...counts].filter(([, n]) => n > 3 && n > USUAL_SHARE * titles.length).map(([stem]) => stem),
  );
}

/** The words of a title whose stems both pages have, in the title's order: words for the link. */
function wordsFor(title: string, stems: ReadonlySet<string>, lexicon: Lexicon): string[] {
  return [...new Set(tellingWordsOf(title, lexicon).filter((word) => stems.has(lexicon.stem(word))))];
}
