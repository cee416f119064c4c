import { LRUCache } from 'lru-cache';
import type { Span } from '../../core/calendar/span';
import { columnsUsedAgain } from '../../core/facts/pack';
import { ledDays, type Led, type ShownOnDay } from '../../core/history/led';
import { queryDaysIn } from '../../store/figures/days';
import { pageFacts } from '../../store/figures/layers';
import { ALWAYS } from '../../store/figures/layers';
import { queryIdOf } from '../../store/figures/queryIds';
import type { Db } from '../../store/database';
import type { Engines } from '../site/engines';
import type { SiteContext } from '../site/siteContext';
import { figuresStamp } from '../../store/figures/figuresStamp';

/** Which of some pages led for a query within a span. */
export function ledFor(
  { db, site }: SiteContext,
  query: string,
  pageIds: readonly number[],
  span: Span,
): Led[] {
  return ledDays(
    pageIds.flatMap((pageId) =>
      queryDaysIn(db, site.id, query, [pageId], span).map(
        ({ day, impressions, positionSum, positionWeight }): ShownOnDay => ({
          ...{ pageId, day, impressions },
          position: positionWeight > 0 ? positionSum / positionWeight : null,
        }),
      ),
    ),
  );
}

/** Index of the pages that a query ever appeared on, since rows by query are stored by page. */
export class QueryPages {
  private readonly kept = new LRUCache<number, { key: string; pages: ReadonlyMap<number, Int32Array> }>({
    max: 4,
  });

  constructor(private readonly engines: Engines) {}

  /** The given pages that a query ever appeared on; null means all, including rows without a page. */
  of({ db, site }: SiteContext, query: string, among: readonly number[] | null): number[] {
    const id = queryIdOf(db, site.id, query);
    if (id === null) return [];
    const key = figuresStamp(db, site.id);
    let known = this.kept.get(site.id);
    if (known?.key !== key) {
      known = { key, pages: indexed(db, this.engines.pageIdsForQueries(site)) };
      this.kept.set(site.id, known);
    }
    const shown = new Set(known.pages.get(id));
    if (among === null) return [...shown];
    return among.filter((page) => shown.has(page));
  }
}

/** By query the pages that it was ever shown on. */
function indexed(db: Db, pageIds: readonly number[]): Map<number, Int32Array> {
  const found = new Map<number, number[]>();
  const columns = columnsUsedAgain();
  for (const page of pageIds) {
    const seen = new Set<number>();
    for (const { facts } of pageFacts(db, page, 'page_query_day', ALWAYS, columns))
      for (let row = 0; row < facts.rows; row++) seen.add(facts.query[row]!);
    for (const query of seen) {
      const pages = found.get(query);
      if (pages) pages.push(page);
      else found.set(query, [page]);
    }
  }
  return new Map([...found].map(([query, pages]) => [query, Int32Array.from(pages)]));
}
