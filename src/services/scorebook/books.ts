import { LRUCache } from 'lru-cache';
import type { BookSource } from '../../core/scorebook/book';
import { listRounds } from '../../store/rounds/rounds';
import type { Engines } from '../engines';
import { readChanges } from '../readChanges';
import type { SiteContext } from '../siteContext';
import { bookSource } from './source';

const MOST_SITES = 12;

/** What was read on sites, kept as long as changes, rounds and figures stay the same. */
export class Books {
  private readonly kept = new LRUCache<number, { key: string; readings: unknown; made: BookSource }>({
    max: MOST_SITES,
  });

  constructor(private readonly engines: Engines) {}

  of(context: SiteContext): BookSource {
    // Readings are the same list again as long as all that they depend on is.
    const readings = readChanges(context, this.engines);
    const key = JSON.stringify(listRounds(context.db, context.site.id));
    const known = this.kept.get(context.site.id);
    if (known && known.readings === readings && known.key === key) return known.made;
    const made = bookSource(context, this.engines);
    this.kept.set(context.site.id, { key, readings, made });
    return made;
  }
}
