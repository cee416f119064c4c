import { pagePath } from '../../core/address/address';
import type { Column } from '../../core/lists/columns';
import { emptySide, type FiguresTable, type Side } from '../../core/lists/table';
import type { Finding } from '../../core/markup/findings';
import type { PageRef } from '../../core/model/change';
import { latestTitles } from '../../store/evidence/snapshots';
import { grainsOf } from '../../store/figures/coverage';
import { landingTotals } from '../../store/figures/landing';
import { sumIn, type Pairs } from '../../store/figures/pairs';
import { pageTraits } from '../../store/traits/traits';
import type { SiteContext } from '../site/siteContext';
import type { SiteFigures } from '../site/siteFigures';
import { lineOf } from './lineOf';
import { type Made, type TableQuery, holds, worthOf, changesByPage, perPairs } from './made';

/** What the pages brought over the spans, and for how many queries each was shown. */
type PageFigures = {
  readonly sides: { readonly now: Side; readonly was: Side };
  readonly queries: Float64Array;
};
const figuresOf = perPairs<PageFigures>();

function pageFigures(figures: SiteFigures, wish: TableQuery, pairs: Pairs): PageFigures {
  const pages = figures.allPages;
  const place = new Map(pages.map(({ id }, row) => [id, row]));
  const sides = { now: emptySide(pages.length), was: emptySide(pages.length) };
  for (const series of figures.seriesOf(wish.device)) {
    const row = place.get(series.id);
    if (row === undefined) continue;
    for (const side of ['now', 'was'] as const) {
      const span = wish.spans[side];
      if (!span) continue;
      for (const name of ['clicks', 'impressions', 'positionSum', 'positionWeight'] as const)
        sides[side][name][row] = sumIn(series[name], series.firstDay, span);
      // Without rows by query for a device, appeal on it is not known.
      if (wish.device === 0 || pairs.rows > 0)
        sides[side].expected[row] = pairs.showings.get(series.id)?.[side] ?? 0;
    }
  }
  const queries = new Float64Array(pages.length);
  for (let pair = 0; pair < pairs.rows; pair++) {
    const row = place.get(pairs.page[pair]!);
    if (row !== undefined && pairs.now.impressions[pair]! > 0) queries[row]! += 1;
  }
  return { sides, queries };
}

/** The table of a list of pages. */
export function pagesTable(
  context: SiteContext,
  figures: SiteFigures,
  wish: TableQuery,
  { pairs, findings }: { readonly pairs: Pairs; readonly findings: ReadonlyMap<number, readonly Finding[]> },
): Made {
  const { db, site } = context;
  const pages = figures.allPages;
  const { sides, queries } = figuresOf(pairs, () => pageFigures(figures, wish, pairs));
  const traits = pageTraits(db, site.id);
  const changes = changesByPage(context);
  const landing = landingTotals(
    db,
    grainsOf(db, site.id).some(({ grain }) => grain === 'analytics_day') ? pages.map(({ id }) => id) : [],
    wish.spans.now,
  );
  const column = (of: (page: PageRef) => number | null | undefined) => (row: number) =>
    of(pages[row]!) ?? NaN;
  const share = ({ sessions, engaged }: { sessions: number; engaged: number | null }) =>
    engaged !== null && sessions > 0 ? engaged / sessions : null;
  const further = (name: Column): ((row: number) => number) | null => {
    switch (name) {
      case 'queries':
        return (row) => queries[row]!;
      case 'changes':
        return column(({ id }) => changes.get(id) ?? 0);
      case 'findings':
        return column(({ id }) => findings.get(id)?.length);
      case 'weight':
        return column(({ id }) => traits.get(id)?.weight);
      case 'sessions':
        return column(({ id }) => landing.get(id)?.sessions);
      case 'engagedShare':
        return column(({ id }) => {
          const one = landing.get(id);
          return one && share(one);
        });
      case 'conversions':
        return column(({ id }) => landing.get(id)?.conversions);
      case 'revenue':
        return column(({ id }) => landing.get(id)?.revenue);
      case 'worth':
        return worthOf(site, sides.now);
      default:
        return null;
    }
  };
  const groups = figures.groups.nameOf;
  const titles = latestTitles(db, site.id);
  const table: FiguresTable = {
    rows: pages.length,
    now: sides.now,
    was: wish.spans.was && sides.was,
    further,
  };
  return {
    table,
    wanted: (wanted) => (row) =>
      holds(pagePath(pages[row]!.address), wanted) &&
      (wanted.group === null || groups.get(pages[row]!.id) === wanted.group),
    pageId: (row) => pages[row]!.id,
    line: (row) => {
      const page = pages[row]!;
      return {
        ...lineOf(table, row, wish.spans),
        ...{ page, query: null, title: titles.get(page.id) ?? null, group: groups.get(page.id) ?? null },
        ...{ brand: null, intent: null, target: traits.get(page.id)?.target ?? null },
      };
    },
  };
}
