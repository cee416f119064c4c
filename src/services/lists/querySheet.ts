import type { Span } from '../../core/calendar/span';
import type { SheetLine } from '../../core/lists/querySheet';
import { pageWords, saidOn } from '../../core/words/termsOnPage';
import { latestEvidence } from '../../store/evidence/snapshots';
import type { Engines } from '../site/engines';
import type { Lists } from './lists';
import type { SiteContext } from '../site/siteContext';
import { wordsOfSite } from '../site/siteWords';

/** Lines of one page in a sheet, at most. */
const MOST_LINES_A_PAGE = 1000;

/** The lines of a sheet of some pages, in their order; null where the site has no figures. */
export function sheetLines(
  context: SiteContext,
  { engines, lists }: { readonly engines: Engines; readonly lists: Lists },
  pageIds: readonly number[],
  spans: { readonly now: Span; readonly was: Span | null },
): SheetLine[] | null {
  const { db, site } = context;
  const figures = engines.figures(site);
  if (!figures) return null;
  const evidence = latestEvidence(db, site.id);
  const { lexicon } = wordsOfSite(db, site);
  return pageIds.flatMap((pageId) => {
    const found = lists.list(context, {
      ...{ subject: 'pairs', spans, device: 0, pageId, words: [], without: [], brand: null, intent: null },
      ...{ group: null, ranges: [], from: 0, limit: MOST_LINES_A_PAGE },
      sort: { column: 'impressions', falling: true },
    });
    const known = evidence.get(pageId);
    const words = known ? pageWords(known.evidence, lexicon) : null;
    return (found?.lines ?? [])
      .filter(({ metrics }) => (metrics.impressions.after ?? 0) > 0)
      .map(({ page, query, metrics, further }): SheetLine => ({
        ...{ page: page?.address ?? '', query: query?.text ?? '' },
        ...{ clicks: metrics.clicks.after ?? 0, impressions: metrics.impressions.after ?? 0 },
        ...{ ctr: metrics.ctr.after, position: metrics.position.after },
        clicksDifference: metrics.clicks.difference,
        impressionsDifference: metrics.impressions.difference,
        placesGained: metrics.position.placesGained,
        searches: further.searches ?? null,
        said: words && query ? saidOn(words, query.text).where : null,
      }));
  });
}
