import type { Day } from '../../core/calendar/day';
import { LRUCache } from 'lru-cache';
import type { Change } from '../../core/model/change';
import type { OutsideEvent } from '../../core/model/event';
import type { Site } from '../../core/model/site';
import { isMade } from '../../core/model/steps';
import { finalOn, lastReadableDay, type Coverage } from '../../core/reading/readable';
import { today } from '../../store/clock';
import type { Db } from '../../store/database';
import { siteCoverage } from '../../store/figures/coverage';
import { listChanges } from '../../store/ledger/findChanges';
import { listEvents } from '../../store/ledger/events';
import type { ModelInputs, Learning } from './learning';

/**
 * A site as use cases see it: its changes, events and the reach of its figures, loaded on first
 * use. It never outlives an edit: see `Contexts`.
 */
export class SiteContext {
  readonly today: Day;
  private all: readonly Change[] | undefined;
  private allMade: readonly Change[] | undefined;
  private noted: readonly OutsideEvent[] | undefined;
  private reach: Coverage | null | undefined;

  constructor(
    readonly db: Db,
    readonly site: Site,
    /** The day up to which figures are known; null for now. */
    readonly asOf: Day | null = null,
    /** Where it is learned what is not known yet. */
    readonly learning: Learning = 'here',
  ) {
    const now = today(site.timeZone);
    // Figures up to a day are final some days later: that is when this was known.
    const then = asOf === null ? now : finalOn(asOf, site.provisionalDays);
    this.today = then < now ? then : now;
  }

  /** All changes that were not deleted, newest first. */
  get changes(): readonly Change[] {
    return (this.all ??= listChanges(this.db, this.site.id));
  }

  /** The changes that were made, newest first; plans are left out. */
  get made(): readonly Change[] {
    return (this.allMade ??= this.changes.filter(isMade));
  }

  /** From when is known what readings are learned from; null without figures. */
  get known(): ModelInputs | null {
    const { made, lastReadable, learning } = this;
    return lastReadable === null ? null : { changes: made, lastReadable, learning };
  }

  get events(): readonly OutsideEvent[] {
    return (this.noted ??= listEvents(this.db, this.site.id));
  }

  /** How far the figures reach, and when the newest came; null without figures. */
  get coverage(): Coverage | null {
    if (this.reach === undefined) this.reach = siteCoverage(this.db, this.site.id);
    return this.reach;
  }

  /** The newest day that is final and may be read, or was as of a day; null without figures. */
  get lastReadable(): Day | null {
    if (!this.coverage) return null;
    const newest = lastReadableDay(this.coverage, this.site.provisionalDays);
    return this.asOf !== null && this.asOf < newest ? this.asOf : newest;
  }
}

/** What is made of a context once, and kept for as long as the context is. */
export function memoizePerContext<T>(make: (context: SiteContext) => T): (context: SiteContext) => T {
  const kept = new WeakMap<SiteContext, { readonly made: T }>();
  return (context) => {
    const known = kept.get(context);
    if (known) return known.made;
    const made = make(context);
    kept.set(context, { made });
    return made;
  };
}

/** The same of several things by their names, of which so many are kept. */
export function memoizeByName<T extends object>(most: number) {
  const kept = new WeakMap<SiteContext, LRUCache<string, T>>();
  return (context: SiteContext, name: string, make: () => T): T => {
    const known = kept.get(context) ?? new LRUCache<string, T>({ max: most });
    kept.set(context, known);
    const made = known.get(name) ?? make();
    known.set(name, made);
    return made;
  };
}
