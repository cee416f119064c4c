import { LRUCache } from 'lru-cache';
import { pagePath } from '../../core/address/address';
import { isoDay } from '../../core/calendar/day';
import { findingsOn, type Finding } from '../../core/markup/findings';
import { listPages } from '../../store/addresses/pages';
import { findSnapshot, latestSnapshots } from '../../store/evidence/snapshots';
import type { SiteContext } from '../site/siteContext';

/** Snapshots whose findings are kept: some times as many as a large site has pages. */
const MOST_KEPT = 20_000;

/** Page issues of sites as last fetched; found once per snapshot. */
export class Findings {
  private readonly kept = new LRUCache<number, { key: string; found: readonly Finding[] }>({
    max: MOST_KEPT,
  });

  /** The findings of each page that was fetched, by page. */
  of({ db, site, today }: SiteContext): Map<number, readonly Finding[]> {
    const year = Number(isoDay(today).slice(0, 4));
    const snapshots = latestSnapshots(db, site.id);
    const titled = new Map<string, number[]>();
    for (const { pageId, title } of snapshots)
      if (title !== null) titled.set(title, [...(titled.get(title) ?? []), pageId]);
    const paths = new Map(listPages(db, site.id).map(({ id, address }) => [id, pagePath(address)]));
    return new Map(
      snapshots.map(({ id, pageId, title }) => {
        const same = (title === null ? [] : titled.get(title)!).filter((other) => other !== pageId);
        const sameTitle = same.flatMap((other) => paths.get(other) ?? []).sort();
        const key = [year, ...sameTitle].join('\n');
        const known = this.kept.get(id);
        if (known?.key === key) return [pageId, known.found];
        const evidence = findSnapshot(db, id)?.evidence;
        const found = evidence ? findingsOn(evidence, { year, sameTitle }) : [];
        this.kept.set(id, { key, found });
        return [pageId, found];
      }),
    );
  }
}
