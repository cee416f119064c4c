import { rulesOfThumb, targetPosition } from '../../core/openings/withinReach';
import { LEAST_CLICKS, gainAt, type SearchContext, type Found } from './searchContext';

/** Searches within reach that are estimated, those that would bring most at the usual appeal. */
const MOST_REACHABLE = 1500;

/** Within reach: searches that a page is shown for just off the first page, or low on it. */
export function reachable(work: SearchContext): Found[] {
  // Ranges take time, so of a large site only those that would bring most are looked at closely.
  const { curve } = work.appeal;
  const candidates = work.pairs.flatMap((pair) => {
    const target = pair.brand || pair.position === null ? null : targetPosition(pair.position);
    if (target === null) return [];
    const most = (pair.impressions * (curve(target) - curve(pair.position!))) / work.months;
    return most < LEAST_CLICKS / 4 ? [] : [{ pair, target, most }];
  });
  candidates.sort((a, b) => b.most - a.most);
  return candidates.slice(0, MOST_REACHABLE).flatMap(({ pair, target }): Found[] => {
    const { clicks, impressions, position } = pair;
    return [
      {
        opening: {
          ...{ pageId: pair.pageId, queryId: pair.queryId },
          gain: gainAt(work, pair, target),
          figures: {
            ...{ clicks, impressions, position: position!, target },
            ...rulesOfThumb({ clicks, impressions, position: position! }),
          },
        },
      },
    ];
  });
}
