import { LRUCache } from 'lru-cache';
import { bookOf, type BookSource, type Scorebook } from '../../core/scorebook/book';
import type { Reading } from '../../core/reading/readingModel';
import { kindScore, type KindScore } from '../../core/scorebook/kindScore';
import type { ScoredBy } from '../../core/scorebook/scorebook';
import { listRounds } from '../../store/rounds/rounds';
import type { Engines } from '../site/engines';
import { readChanges } from '../reading/readChanges';
import { memoizePerContext, type SiteContext } from '../site/siteContext';
import { bookSource, readToTheEnd } from './source';

const MOST_SITES = 12;
/** One for each way of pooling. */
const MOST_BOOKS = 8;

const roundsAsText = memoizePerContext(({ db, site }) => JSON.stringify(listRounds(db, site.id)));

const sameItems = (a: readonly unknown[], b: readonly unknown[]) =>
  a.length === b.length && a.every((one, at) => one === b[at]);

/** What was read on sites, kept as long as changes, rounds and figures stay the same. */
export class Books {
  private readonly kept = new LRUCache<
    number,
    { key: string; readings: readonly Reading[]; made: BookSource }
  >({
    max: MOST_SITES,
  });

  private readonly books = new LRUCache<ScoredBy, { sources: readonly BookSource[]; book: Scorebook }>({
    max: MOST_BOOKS,
  });

  private readonly kinds = new WeakMap<BookSource, Map<string, KindScore | null>>();

  constructor(private readonly engines: Engines) {}

  /** The scorebook of some sites together, its lines pooled in one of the ways. */
  book(sources: readonly BookSource[], by: ScoredBy): Scorebook {
    const known = this.books.get(by);
    if (known && sameItems(known.sources, sources)) return known.book;
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

  /** What changes of a kind brought on a site; null where none was read. */
  kind(context: SiteContext, kind: string): KindScore | null {
    const source = this.of(context);
    const scores = this.kinds.get(source) ?? new Map<string, KindScore | null>();
    this.kinds.set(source, scores);
    const score = scores.has(kind) ? scores.get(kind)! : kindScore(source, kind);
    scores.set(kind, score);
    return score;
  }

  /** What a scorebook of a site is made from. */
  of(context: SiteContext): BookSource {
    // Readings are the same objects again as long as all that they depend on is.
    const readings = readToTheEnd(readChanges(context, this.engines));
    const key = roundsAsText(context);
    const known = this.kept.get(context.site.id);
    if (known?.key === key && sameItems(known.readings, readings)) return known.made;
    const made = bookSource(context, this.engines);
    this.kept.set(context.site.id, { key, readings, made });
    return made;
  }
}
