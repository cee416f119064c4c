import { LRUCache } from 'lru-cache';
import { bookOf, type BookSource, type Scorebook } from '../../core/scorebook/book';
import type { ScoredBy } from '../../core/scorebook/scorebook';
import { listRounds } from '../../store/rounds/rounds';
import type { Engines } from '../engines';
import { readChanges } from '../readChanges';
import type { SiteContext } from '../siteContext';
import { bookSource } from './source';

const MOST_SITES = 12;
/** Of each site, and of sites together, pooled in several ways. */
const MOST_BOOKS = 24;

/** What was read on sites, kept as long as changes, rounds and figures stay the same. */
export class Books {
  private readonly kept = new LRUCache<number, { key: string; readings: unknown; made: BookSource }>({
    max: MOST_SITES,
  });

  private readonly books = new LRUCache<string, { sources: readonly BookSource[]; book: Scorebook }>({
    max: MOST_BOOKS,
  });

  constructor(private readonly engines: Engines) {}

  /** The scorebook of some sites together, its lines pooled in one of the ways. */
  book(contexts: readonly SiteContext[], by: ScoredBy): Scorebook {
    const sources = contexts.map((context) => this.of(context));
    const slot = [by, ...contexts.map(({ site }) => site.id)].join(' ');
    const known = this.books.get(slot);
    if (known?.sources.every((source, at) => source === sources[at])) return known.book;
    const book = bookOf(
      {
        scored: sources.flatMap(({ scored }) => scored),
        forecasts: sources.flatMap(({ forecasts }) => forecasts),
        openings: sources.flatMap(({ openings }) => openings),
      },
      by,
    );
    this.books.set(slot, { sources, book });
    return book;
  }

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
