import { wordsOf } from '../../core/words/find';
import { sumIn } from '../../store/figures/pairs';
import type { Links } from '../pages/links';
import { isHome, pathOf, type SearchContext, type Found } from './searchContext';

/** Pages for which links are sought, the most seen. */
const MOST_TARGETS = 100;
/** A page that so many others link to is linked well enough. */
const MOST_LINKED = 5;

/** Unlinked: pages that others of the site speak of and do not link to, and pages that none links to. */
export function unlinked(work: SearchContext, links: Links): Found[] {
  const { context, figures, evidence, span } = work;
  const named = new Set(wordsOf(context.site.name));
  const seen = figures.series
    .map((page) => ({ pageId: page.id, impressions: sumIn(page.impressions, page.firstDay, span) }))
    .filter(({ pageId, impressions }) => impressions > 0 && evidence.has(pageId))
    .sort((a, b) => b.impressions - a.impressions);
  return seen.slice(0, MOST_TARGETS).flatMap(({ pageId, impressions }): Found[] => {
    const found = links.of(context, pageId);
    if (!found || isHome(work, pageId)) return [];
    const { candidates } = found;
    const linkedFrom = found.linkedFrom.length;
    if (linkedFrom > MOST_LINKED || (candidates.length === 0 && linkedFrom > 0)) return [];
    const shown = candidates.slice(0, 2);
    return [
      {
        opening: {
          ...{ pageId, queryId: null, gain: null },
          figures: { linkedFrom, candidates: candidates.length, impressions },
        },
        named: {
          pages: shown.map(({ fromId }) => ({ path: pathOf(work, fromId) })),
          words: [...new Set(shown.flatMap(({ words }) => words))]
            .filter((word) => !named.has(word))
            .slice(0, 3),
        },
      },
    ];
  });
}
