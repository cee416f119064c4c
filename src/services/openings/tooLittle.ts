import { appealPosterior, gammaMean } from '../../core/openings/appealPosterior';
import { gainOfAppeal } from '../../core/openings/tooLittle';
import type { SearchContext, Found } from './searchContext';

/** Chosen too little: pages that are chosen less often than the site usually is at the same searches and positions. */
export function tooLittle({ appeal, months }: SearchContext): Found[] {
  return [...appeal.byPage].map(([pageId, page]) => {
    const posterior = gammaMean(appealPosterior(appeal.prior, page));
    return {
      opening: {
        ...{ pageId, queryId: null },
        gain: gainOfAppeal(appeal.prior, page, months, appeal.level),
        figures: {
          ...{
            clicks: page.clicks,
            expected: page.expected * appeal.level,
            appeal: posterior,
            usual: appeal.level,
          },
        },
      },
    };
  });
}
