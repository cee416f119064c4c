import { pagePath } from '../../core/address/address';
import { isoDay } from '../../core/calendar/day';
import { findingsOn } from '../../core/markup/findings';
import { pagesTitled } from '../../store/evidence/snapshots';
import { sumIn } from '../../store/figures/pairs';
import type { Work, Found } from './work';

/** A snapshot older than this says little of the page as it is. */
const OLD_DAYS = 120;

export function outOfOrder(work: Work): Found[] {
  const { context, evidence, figures, span } = work;
  const { db, site, today } = context;
  const year = Number(isoDay(today).slice(0, 4));
  const shown = new Map(
    figures.series.map((page) => [page.id, sumIn(page.impressions, page.firstDay, span)]),
  );
  return [...evidence].flatMap(([pageId, { evidence: page, lastDay }]): Found[] => {
    const sameTitle = page.title
      ? pagesTitled(db, site.id, page.title, pageId).map(({ address }) => pagePath(address))
      : [];
    const findings = findingsOn(page, { year, sameTitle }).map(({ message }) => message);
    const age = today - lastDay;
    if (age > OLD_DAYS) findings.push(`It was last fetched ${age} days ago.`);
    const impressions = shown.get(pageId) ?? 0;
    if (findings.length === 0 || impressions === 0) return [];
    return [
      {
        opening: {
          ...{ kind: 'out-of-order', pageId, queryId: null, gain: null },
          figures: { findings: findings.length, impressions },
        },
        named: { findings },
      },
    ];
  });
}
