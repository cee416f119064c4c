import { LRUCache } from 'lru-cache';
import { isoDay } from '../../core/calendar/day';
import type { PageRef } from '../../core/model/change';
import { pageWords, saidOn, type Said } from '../../core/words/termsOnPage';
import { addressKey } from '../../core/wording/days';
import { draftReport, type DraftBasis, type DraftReport } from '../../core/wording/draft';
import type { EntityReader } from '../../core/wording/entities';
import { englishReader } from '../../core/wording/englishReader';
import type { ComparedText, ResultPage, Worded } from '../../core/wording/resultPage';
import { suggestedData, type SuggestedData } from '../../core/wording/structured';
import { wordingOf, type Wording } from '../../core/wording/wording';
import { latestEvidence } from '../../store/evidence/snapshots';
import { pageOf, findPage } from '../../store/addresses/pages';
import { traitsOfQuery } from '../../store/traits/traits';
import { leftOutTerms } from '../../store/wording/leftOut';
import { rivalsOf } from '../../store/wording/rivals';
import { findResultPage } from '../../store/wording/resultPages';
import type { Engines } from '../site/engines';
import type { Links } from '../pages/links';
import type { Lists } from '../lists/lists';
import { listRequest } from '../lists/fromQuery';
import { listQueryFrom } from '../../core/lists/address';
import type { SiteContext } from '../site/siteContext';
import { wordsOfSite } from '../site/siteWords';
import { ownResults } from './resultPages';

/** A line that people ask or search for, and whether one's own page says it. */
export type AskedLine = { readonly text: string; readonly said: Said | null };

/** What the wording of a result page is told by. */
export type WordingSeen = {
  readonly page: ResultPage;
  readonly wording: Wording;
  /** One's own page: that among the results, else that which is meant for the query, else that which is shown for it most. */
  readonly own: PageRef | null;
  readonly ownRank: number | null;
  /** What the page itself says as it was last fetched. */
  readonly onPage: {
    readonly title: string | null;
    readonly description: string | null;
    readonly h1: string | null;
    readonly words: number;
    readonly headings: number;
  } | null;
  readonly searches: readonly { readonly query: string; readonly impressions: number }[];
  readonly asked: readonly AskedLine[];
  readonly related: readonly AskedLine[];
  readonly data: readonly SuggestedData[];
};

export type WordingQuery = {
  readonly resultPageId: number;
  readonly of: ComparedText;
  /** One's own text as it is thought of; null for the one that is shown. */
  readonly text: string | null;
  /** The address of one's own page, where it is to be another. */
  readonly ownAddress: string | null;
};

/** Searches of a page that a draft is held against, the most seen. */
const MOST_SEARCHES = 200;

type Tools = { readonly engines: Engines; readonly lists: Lists; readonly links: Links };

/** Tells what result pages have in common, and holds drafts against them. */
export class Wordings {
  private reader: Promise<EntityReader> | null = null;
  private readonly seen = new LRUCache<string, DraftBasis>({ max: 20 });

  constructor(private readonly tools: Tools) {}

  /** What a result page has in common; null where there is none of that number on the site. */
  async of(context: SiteContext, wish: WordingQuery): Promise<WordingSeen | null> {
    const page = findResultPage(context.db, wish.resultPageId);
    if (!page || page.siteId !== context.site.id) return null;
    const { db, site } = context;
    const { lexicon, intents } = wordsOfTitles(context);
    const wanted = wish.ownAddress === null ? null : addressKey(wish.ownAddress);
    const isOwn = wanted === null ? ownResults(site) : (address: string) => addressKey(address) === wanted;
    const ownOf = page.results.find(({ address }) => isOwn(address)) ?? null;
    const own = this.ownPage(context, page, ownOf?.address ?? wish.ownAddress);
    const evidence = own ? latestEvidence(db, site.id).get(own.id)?.evidence : undefined;
    const h1 = evidence?.headings.find(({ level }) => level === 1)?.text ?? null;
    const rivals = rivalsOf(db, page.id);
    const wording = wordingOf(
      page,
      isOwn,
      {
        ...{ lexicon, intents, read: await this.readerOf(context) },
        leftOut: new Set(leftOutTerms(db, site.id).map(({ term }) => term)),
        ownPages: this.tools.links.saying(context),
      },
      {
        ...{ of: wish.of, own: wish.text },
        ...(wish.of === 'h1'
          ? {
              textOf: ({ rank, address }) => (isOwn(address) ? h1 : (rivals.get(rank)?.facts?.h1[0] ?? null)),
            }
          : {}),
      },
    );
    const words = evidence ? pageWords(evidence, lexicon) : null;
    const said = (text: string): AskedLine => ({ text, said: words && saidOn(words, text) });
    const others = page.results.filter(({ address }) => !isOwn(address)).slice(0, 10);
    const shown = (extra: 'stars' | 'price' | 'answers') =>
      others.filter(({ extras }) => extras.includes(extra)).length;
    return {
      ...{ page, wording, own, ownRank: ownOf?.rank ?? null },
      onPage: evidence
        ? {
            ...{ title: evidence.title, description: evidence.description, words: evidence.words },
            h1,
            headings: evidence.headings.length,
          }
        : null,
      searches: own ? this.searchesOf(context, own.id) : [],
      asked: page.asked.map(said),
      related: page.related.map(said),
      data: evidence
        ? suggestedData(evidence, {
            siteName: site.name,
            shown: { stars: shown('stars'), price: shown('price'), answers: shown('answers') },
          })
        : [],
    };
  }

  /** Drafts held against a result page; null where there is none of that number on the site. */
  async drafts(
    context: SiteContext,
    wish: { readonly resultPageId: number; readonly of: Worded; readonly texts: readonly string[] },
  ): Promise<DraftReport[] | null> {
    const page = findResultPage(context.db, wish.resultPageId);
    if (!page || page.siteId !== context.site.id) return null;
    const leftOut = leftOutTerms(context.db, context.site.id);
    const key = `${page.id}/${wish.of}/${leftOut.map(({ term }) => term).join(',')}/${context.lastReadable}`;
    let basis = this.seen.get(key);
    if (!basis) {
      const seen = await this.of(context, { ...wish, text: null, ownAddress: null });
      basis = await this.basisOf(context, seen!, wish.of);
      this.seen.set(key, basis);
    }
    return wish.texts.map((text) => draftReport(text, basis));
  }

  private async basisOf(context: SiteContext, seen: WordingSeen, of: Worded): Promise<DraftBasis> {
    const { wording, onPage, own, page, searches } = seen;
    return {
      ...{ of, searches, terms: wording.terms, query: page.query.text },
      lexicon: wordsOfTitles(context).lexicon,
      others: wording.results.filter((one) => !one.own).map(({ result }) => result[of]!),
      present: (of === 'title' ? onPage?.title : onPage?.description) ?? wording.ownText,
      read: await this.readerOf(context),
      address: own?.address ?? null,
      year: Number(isoDay(context.today).slice(0, 4)),
    };
  }

  /** The model is loaded when it is first asked for; it knows English. */
  private readerOf({ site }: SiteContext): Promise<EntityReader> | null {
    if (site.language !== 'en') return null;
    this.reader ??= englishReader();
    return this.reader;
  }

  private ownPage(context: SiteContext, { query }: ResultPage, address: string | null): PageRef | null {
    const { db, site } = context;
    if (address !== null) {
      const found = pageOf(db, site, address);
      if (found) return found;
    }
    const { targetPageId } = traitsOfQuery(db, query.id);
    if (targetPageId !== null) return findPage(db, site.id, targetPageId);
    const wish = listRequest(context, 'pairs', listQueryFrom({}, 'pairs'), { queryId: query.id });
    if (!wish || typeof wish === 'string') return null;
    return this.tools.lists.list(context, { ...wish, limit: 1 })?.lines[0]?.page ?? null;
  }

  private searchesOf(context: SiteContext, pageId: number): WordingSeen['searches'] {
    const wish = listRequest(context, 'pairs', listQueryFrom({}, 'pairs'), { pageId });
    if (!wish || typeof wish === 'string') return [];
    const found = this.tools.lists.list(context, { ...wish, limit: MOST_SEARCHES });
    return (found?.lines ?? []).flatMap(({ query, metrics }) =>
      query ? [{ query: query.text, impressions: metrics.impressions.after ?? 0 }] : [],
    );
  }
}

/** The words of titles: those that ask, such as when and how, tell something there. */
function wordsOfTitles({ db, site }: SiteContext) {
  const { lexicon, intents } = wordsOfSite(db, site);
  const asking = new Set(intents['to-learn']);
  const joining = new Set([...lexicon.joining].filter((word) => !asking.has(word)));
  return { lexicon: { stem: (word: string) => lexicon.stem(word), joining }, intents };
}
