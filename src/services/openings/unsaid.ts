import { pageWords, saidOn } from '../../core/openings/said';
import type { PairFigures } from '../../core/openings/site';
import { targetPosition } from '../../core/openings/withinReach';
import { gainAt, type Work, type Found } from './work';

/** A search has to be seen so often to be missed on a page; so many are told of one page. */
const [LEAST_SEEN, MOST_UNSAID] = [20, 3];

export function unsaid(work: Work): Found[] {
  const byPage = new Map<number, PairFigures[]>();
  for (const pair of work.pairs) {
    if (pair.brand || pair.impressions < LEAST_SEEN * work.months || pair.position === null) continue;
    const known = byPage.get(pair.pageId);
    if (known) known.push(pair);
    else byPage.set(pair.pageId, [pair]);
  }
  return [...byPage].flatMap(([pageId, own]) => {
    const snapshot = work.evidence.get(pageId);
    if (!snapshot) return [];
    const words = pageWords(snapshot.evidence);
    const missed = own
      .sort((a, b) => b.impressions - a.impressions)
      .map((pair) => ({ pair, said: saidOn(words, work.texts.get(pair.queryId) ?? '') }))
      .filter(({ said }) => said.where === 'parts' || said.where === 'nowhere')
      .filter(({ said }) => said.missing.length > 0);
    return missed.slice(0, MOST_UNSAID).map(({ pair, said }): Found => {
      const target = targetPosition(pair.position!);
      return {
        opening: {
          ...{ kind: 'unsaid', pageId, queryId: pair.queryId },
          gain: target === null ? null : gainAt(work, pair, target),
          figures: { clicks: pair.clicks, impressions: pair.impressions, position: pair.position! },
        },
        named: { said },
      };
    });
  });
}
