import { LRUCache } from 'lru-cache';
import { LinkIndex, type PageLinks } from '../../core/openings/unlinked';
import type { Lexicon } from '../../core/words/stems';
import { latestEvidence, latestSnapshots } from '../../store/evidence/snapshots';
import { listPages } from '../../store/addresses/pages';
import type { PageRef } from '../../core/model/change';
import type { SiteContext } from '../site/siteContext';
import { wordsOfSite } from '../site/siteWords';

/** What links to a page and what could, as it is shown. */
export type LinksSeen = {
  readonly from: readonly PageRef[];
  readonly candidates: readonly { readonly page: PageRef; readonly words: readonly string[] }[];
};

/** The links of a page, with the pages; null of a page that was not fetched. */
export function linksSeen(context: SiteContext, links: Links, pageId: number): LinksSeen | null {
  const found = links.of(context, pageId);
  if (!found) return null;
  const pages = new Map(listPages(context.db, context.site.id).map((page) => [page.id, page]));
  return {
    from: found.linkedFrom.flatMap((id) => pages.get(id) ?? []),
    candidates: found.candidates.flatMap(({ fromId, words }) => {
      const page = pages.get(fromId);
      return page ? [{ page, words }] : [];
    }),
  };
}

/** Indexes of the texts of a few sites are kept. */
const MOST_SITES = 2;

/** Pages that link to the pages of sites, and pages that could, from their last fetched text. */
export class Links {
  private readonly kept = new LRUCache<number, { key: string; lexicon: Lexicon; index: LinkIndex }>({
    max: MOST_SITES,
  });

  /** What links to a page, and what could; null of a page that was not fetched. */
  of(context: SiteContext, pageId: number): PageLinks | null {
    return this.indexOf(context).of(pageId);
  }

  /** How many pages of a site say a stem; null where none was fetched. */
  saying(context: SiteContext): { of(stem: string): number; readonly total: number } | null {
    const index = this.indexOf(context);
    return index.total === 0 ? null : { of: (stem) => index.saying(stem), total: index.total };
  }

  private indexOf({ db, site }: SiteContext): LinkIndex {
    const snapshots = latestSnapshots(db, site.id);
    const key = snapshots.map(({ id, pageId }) => `${pageId}:${id}`).join(' ');
    const { lexicon } = wordsOfSite(db, site);
    const known = this.kept.get(site.id);
    if (known?.key === key && known.lexicon === lexicon) return known.index;
    const idOf = new Map(listPages(db, site.id).map(({ id, address }) => [address, id]));
    const texts = [...latestEvidence(db, site.id)].map(([pageId, { evidence }]) => ({
      pageId,
      title: evidence.title ?? evidence.headings.find(({ level }) => level === 1)?.text ?? '',
      text: evidence.text,
      linksTo: new Set(evidence.links.flatMap((link) => idOf.get(link) ?? [])),
    }));
    const index = new LinkIndex(texts, lexicon);
    this.kept.set(site.id, { key, lexicon, index });
    return index;
  }
}
