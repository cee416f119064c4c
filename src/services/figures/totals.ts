import { pagePath } from '../../core/address/address';
import type { Span } from '../../core/calendar/span';
import { compareTotals, type Metrics } from '../../core/measures/comparison';
import type { Totals } from '../../core/measures/totals';
import type { ListSpans } from '../../core/lists/spans';
import { sumIn } from '../../store/figures/pairs';
import type { Engines } from '../site/engines';
import type { SiteContext } from '../site/siteContext';
import type { SiteFigures } from '../site/siteFigures';

/** Which figures are added up over which days. */
export type TotalsRequest = {
  readonly spans: ListSpans;
  /** The code of a device; 0 for all. */
  readonly device: number;
  /** Only pages whose path begins so; null for all. */
  readonly path?: string | null;
  /** Only these pages; null for all. */
  readonly pageIds?: readonly number[] | null;
};

/**
 * The four measures of a site, or of some of its pages, over two spans: sums of what the pages
 * brought, rare queries included. A span without figures is absent, and so is everything where the
 * figures are not divided by the device. Null where the site has no daily figures.
 */
export function siteTotals({ site }: SiteContext, engines: Engines, request: TotalsRequest): Metrics | null {
  const figures = engines.figures(site);
  return figures && totalsOf(figures, request);
}

/** The same from figures that are at hand. */
export function totalsOf(
  figures: SiteFigures,
  { spans, device, path = null, pageIds = null }: TotalsRequest,
): Metrics {
  const among = pageIds && new Set(pageIds);
  const under =
    path === null
      ? null
      : new Set(
          figures.allPages.flatMap(({ id, address }) => (pagePath(address).startsWith(path) ? [id] : [])),
        );
  const series = figures
    .seriesOf(device)
    .filter(({ id }) => (!among || among.has(id)) && (!under || under.has(id)));
  const totals = (span: Span | null): Totals | null => {
    if (!span || series.length === 0) return null;
    let days = 0;
    for (let day = span.firstDay; day <= span.lastDay; day++) if (figures.covered.has(day)) days += 1;
    if (days === 0) return null;
    const sum = (name: 'clicks' | 'impressions' | 'positionSum' | 'positionWeight') =>
      series.reduce((total, one) => total + sumIn(one[name], one.firstDay, span), 0);
    return {
      ...{ days, clicks: sum('clicks'), impressions: sum('impressions') },
      ...{ positionSum: sum('positionSum'), positionWeight: sum('positionWeight') },
    };
  };
  return compareTotals(totals(spans.was), totals(spans.now));
}
