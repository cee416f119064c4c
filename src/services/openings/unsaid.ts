import { pageWords, saidOn } from '../../core/words/termsOnPage';
import type { PairFigures } from '../../core/openings/site';
import { targetPosition } from '../../core/openings/withinReach';
import { wordsOfSite } from '../site/siteWords';
import { inTurns } from '../site/turns';
import { gainAt, type SearchContext, type Found } from './searchContext';

/** A search has to be seen so often to be missed on a page; so many are told of one page. */
const [LEAST_SEEN, MOST_UNSAID] = [20, 3];

/** Unsaid: searches for which a page is shown and whose words it does not say. */
export async function unsaid(work: SearchContext): Promise<Found[]> {
  const byPage = new Map<number, PairFigures[]>();
  for (const pair of work.pairs) {
    if (pair.brand || pair.impressions < LEAST_SEEN * work.months || pair.position === null) continue;
    const known = byPage.get(pair.pageId);
    if (known) known.push(pair);
    else byPage.set(pair.pageId, [pair]);
  }
  const { lexicon } = wordsOfSite(work.context.db, work.context.site);
  const found: Found[] = [];
  for await (const [pageId, own] of inTurns([...byPage], work.tell('Reading what pages say'))) {
    const snapshot = work.evidence.get(pageId);
    if (!snapshot) continue;
    const words = pageWords(snapshot.evidence, lexicon);
    const missed = own
      .sort((a, b) => b.impressions - a.impressions)
      .map((pair) => ({ pair, said: saidOn(words, work.texts.get(pair.queryId) ?? '') }))
      .filter(({ said }) => said.where === 'parts' || said.where === 'nowhere')
      .filter(({ said }) => said.missing.length > 0);
    for (const { pair, said } of missed.slice(0, MOST_UNSAID)) {
      const target = targetPosition(pair.position!);
      found.push({
        opening: {
          ...{ pageId, queryId: pair.queryId },
          gain: target === null ? null : gainAt(work, pair, target),
          figures: { clicks: pair.clicks, impressions: pair.impressions, position: pair.position! },
        },
        named: { said },
      });
    }
  }
  return found;
}
