import { sumIn } from '../../store/figures/pairs';
import type { Findings } from '../pages/findings';
import type { SearchContext, Found } from './searchContext';

/** A snapshot older than this says little of the page as it is. */
const OLD_DAYS = 120;

/** Out of date or out of order: what wants a look on pages that are seen, and pages that were not fetched for long. */
export function outOfOrder({ context, evidence, figures, span }: SearchContext, findings: Findings): Found[] {
  const shown = new Map(
    figures.series.map((page) => [page.id, sumIn(page.impressions, page.firstDay, span)]),
  );
  return [...findings.of(context)].flatMap(([pageId, found]): Found[] => {
    const messages = found.map(({ message }) => message);
    const age = context.today - (evidence.get(pageId)?.lastDay ?? context.today);
    if (age > OLD_DAYS) messages.push(`It was last fetched ${age} days ago.`);
    const impressions = shown.get(pageId) ?? 0;
    if (messages.length === 0 || impressions === 0) return [];
    return [
      {
        opening: {
          ...{ pageId, queryId: null, gain: null },
          figures: { findings: messages.length, impressions },
        },
        named: { findings: messages },
      },
    ];
  });
}
