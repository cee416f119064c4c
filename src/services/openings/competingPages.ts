import { appealPosterior, gammaMean, gammaQuantile } from '../../core/openings/appealPosterior';
import { RANGE_HIGH, RANGE_LOW } from '../../core/openings/opening';
import { sharedQuery, type PageOnQuery } from '../../core/openings/competingPages';
import type { PairFigures } from '../../core/openings/site';
import { queryDaysIn } from '../../store/figures/days';
import { isHome, pathOf, type SearchContext, type Found } from './searchContext';

/** Searches that are looked at for pages that take turns, the most seen. */
const MOST_SHARED = 150;

/** Shared: searches that several pages serve and none owns. */
export function shared(work: SearchContext): Found[] {
  const { context, pairs, texts, span, appeal, months } = work;
  const byQuery = new Map<number, PairFigures[]>();
  for (const pair of pairs) {
    if (pair.brand || isHome(work, pair.pageId)) continue;
    const known = byQuery.get(pair.queryId);
    if (known) known.push(pair);
    else byQuery.set(pair.queryId, [pair]);
  }
  const total = (list: readonly PairFigures[]) => list.reduce((sum, { impressions }) => sum + impressions, 0);
  const candidates = [...byQuery.values()]
    .filter((list) => {
      const sum = total(list);
      return list.filter(({ impressions }) => impressions >= 0.15 * sum).length > 1;
    })
    .sort((a, b) => total(b) - total(a))
    .slice(0, MOST_SHARED);
  return candidates.flatMap((list): Found[] => {
    const text = texts.get(list[0]!.queryId) ?? '';
    const { db, site } = context;
    const pages = list.map(({ pageId, impressions, clicks, position }): PageOnQuery => ({
      ...{ pageId, impressions, clicks, position },
      days: queryDaysIn(db, site.id, text, [pageId], span).map((one) => ({
        ...{ day: one.day, impressions: one.impressions },
        position: one.positionWeight > 0 ? one.positionSum / one.positionWeight : Infinity,
      })),
    }));
    const found = sharedQuery(pages);
    if (!found) return [];
    const impressions = total(list);
    const best = [...found.pages].sort((a, b) => a.position - b.position)[0]!;
    const clicks = list.reduce((sum, one) => sum + one.clicks, 0);
    const known = appealPosterior(appeal.prior, appeal.byPage.get(best.pageId) ?? { clicks: 0, expected: 0 });
    const at = (a: number) => Math.max(0, impressions * appeal.curve(best.position) * a - clicks) / months;
    return [
      {
        opening: {
          ...{ pageId: best.pageId, queryId: list[0]!.queryId },
          gain: {
            clicks: at(gammaMean(known)),
            low: at(gammaQuantile(known, RANGE_LOW)),
            high: at(gammaQuantile(known, RANGE_HIGH)),
          },
          figures: {
            clicks,
            impressions,
            position: best.position,
            turns: found.turns,
            together: found.together,
          },
        },
        named: { pages: found.pages.map((page) => ({ ...page, path: pathOf(work, page.pageId) })) },
      },
    ];
  });
}
