import { LRUCache } from 'lru-cache';
import { bookOf, type BookSource, type Scorebook } from '../../core/scorebook/book';
import type { ScoredBy } from '../../core/scorebook/scorebook';
import { listRounds } from '../../store/rounds/rounds';
import type { Engines } from '../engines';
import { readChanges } from '../readChanges';
import type { SiteContext } from '../siteContext';
import { bookSource } from './source';

const MOST_SITES = 12;
/** One for each way of pooling. */
const MOST_BOOKS = 8;

/** What was read on sites, kept as long as changes, rounds and figures stay the same. */
export class Books {
  private readonly kept = new LRUCache<number, { key: string; readings: unknown; made: BookSource }>({
    max: MOST_SITES,
  });

  private readonly books = new LRUCache<ScoredBy, { sources: readonly BookSource[]; book: Scorebook }>({
    max: MOST_BOOKS,
  });

  constructor(private readonly engines: Engines) {}

  /** The scorebook of some sites together, its lines pooled in one of the ways. */
  book(sources: readonly BookSource[], by: ScoredBy): Scorebook {
    const known = this.books.get(by);
    if (known?.sources.length === sources.length && known.sources.every((one, at) => one === sources[at]))
      return known.book;
    const book = bookOf(
      {
        scored: sources.flatMap(({ scored }) => scored),
        forecasts: sources.flatMap(({ forecasts }) => forecasts),
        openings: sources.flatMap(({ openings }) => openings),
      },
      by,
    );
    this.books.set(by, { sources, book });
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
