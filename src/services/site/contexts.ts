import { LRUCache } from 'lru-cache';
import type { Day } from '../../core/calendar/day';
import type { Db } from '../../store/database';
import { findSite, siteToday } from '../../store/sites';
import { entriesVersion } from '../../store/write';
import type { Learning } from './learning';
import { SiteContext } from './siteContext';
import { figuresStamp } from '../../store/figures/figuresStamp';

/** Sites, and days up to which their figures are known, that are kept. */
const MOST_KEPT = 24;

/** Contexts of sites, each kept while entries, shown figures and the day are the same. */
export class Contexts {
  private readonly kept = new LRUCache<string, { readonly state: string; readonly context: SiteContext }>({
    max: MOST_KEPT,
  });

  constructor(private readonly db: Db) {}

  /** A site as it is known up to a day (null for now); null where there is no such site. */
  of(siteId: number, asOf: Day | null = null, learning: Learning = 'here'): SiteContext | null {
    const state = [entriesVersion(this.db), siteToday(this.db, siteId), figuresStamp(this.db, siteId)].join(
      '/',
    );
    const slot = `${siteId}/${asOf}/${learning}`;
    const known = this.kept.get(slot);
    if (known?.state === state) return known.context;
    const site = findSite(this.db, siteId);
    if (!site) return null;
    const context = new SiteContext(this.db, site, asOf, learning);
    this.kept.set(slot, { state, context });
    return context;
  }
}
