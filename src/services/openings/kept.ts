import { LRUCache } from 'lru-cache';
import { addDays } from '../../core/calendar/day';
import { spanLength, type Span } from '../../core/calendar/span';
import type { EffectEngine } from '../../core/effect/engine';
import { expectedGain } from '../../core/openings/expectedGain';
import { staysAside } from '../../core/openings/aside';
import { KINDS, type OpeningKind } from '../../core/openings/kinds';
import { MONTH_DAYS } from '../../core/openings/opening';
import { pageWords, saidOn } from '../../core/words/termsOnPage';
import type { NamedOpening, OpeningDetail, TimedOpening } from '../../core/openings/named';
import { latestEvidence } from '../../store/evidence/snapshots';
import { passedOpenings } from '../../store/traits/passed';
import { lookedUpQueries } from '../../store/wording/resultPages';
import { siteWords } from '../../store/words';
import { traitsStamp } from '../../store/traits/traits';
import { findOpenings, type Openings } from './find';
import { busyPages, type Finders } from './searchContext';
import { wordsOfSite } from '../site/siteWords';
import type { SiteContext } from '../site/siteContext';
import { figuresStamp } from '../../store/figures/figuresStamp';

/** Days that openings rest on where none are said. */
export const OPENING_DAYS = 56;
/** Lengths of spans by which it is asked when an effect would show. */
const SHOWN_AFTER = [14, 28, 56, 84, 168];

export type OpeningsQuery = {
  readonly span: Span | null;
  readonly kind: OpeningKind | null;
  readonly pageId: number | null;
  readonly from: number;
  readonly limit: number;
};

export type OpeningsPart = {
  readonly openings: readonly TimedOpening[];
  readonly total: number;
  /** How many there are of each kind. */
  readonly kinds: Readonly<Partial<Record<OpeningKind, number>>>;
  readonly span: Span;
  /** Clicks a month that all of them together would bring if each came, pages counted once by their best. */
  readonly clicks: number;
};

const MOST_SEARCHES = 10;

/** Keeps the openings of sites as long as nothing that they rest on changes. */
export class OpeningsKept {
  /** What was found, or is being looked for. */
  private readonly kept = new LRUCache<number, { key: string; found: Promise<Openings | null> }>({ max: 4 });

  private readonly shownIn = new WeakMap<EffectEngine, Map<string, number | null>>();

  constructor(private readonly finders: Finders) {}

  /** Some openings of a site, the best first; null where it has no figures. */
  async part(context: SiteContext, wish: OpeningsQuery): Promise<OpeningsPart | null> {
    const found = await this.all(context, wish.span);
    if (!found) return null;
    const ofPage = worthwhile(context, found).filter(
      ({ page }) => wish.pageId === null || page?.id === wish.pageId,
    );
    const kinds: Partial<Record<OpeningKind, number>> = {};
    for (const { kind } of ofPage) kinds[kind] = (kinds[kind] ?? 0) + 1;
    const wanted = ofPage.filter(({ kind }) => wish.kind === null || kind === wish.kind);
    const busy = busyPages(context);
    const bestOf = new Map<number, number>();
    for (const { page, gain } of wanted)
      if (page && gain && !busy.has(page.id))
        bestOf.set(page.id, Math.max(bestOf.get(page.id) ?? 0, gain.clicks));
    return {
      openings: wanted
        .slice(wish.from, wish.from + wish.limit)
        .map((opening) => this.asItStands(context, opening)),
      total: wanted.length,
      kinds,
      span: found.span,
      clicks: [...bestOf.values()].reduce((sum, clicks) => sum + clicks, 0),
    };
  }

  /** One opening by its key, with what its pane shows; null where it is no longer one. */
  async detail(context: SiteContext, key: string): Promise<OpeningDetail | null> {
    const found = await this.all(context, null);
    const opening = found && worthwhile(context, found).find((one) => one.key === key);
    if (!found || !opening) return null;
    const { lists } = this.finders;
    const shown = KINDS[opening.kind].rows;
    const byQuery = shown.of === 'query' && opening.query;
    const rows =
      opening.page || byQuery
        ? lists.list(context, {
            ...{ subject: 'pairs', spans: { now: found.span, was: null }, device: 0, words: [], without: [] },
            ...(byQuery ? { queryId: byQuery.id } : { pageId: opening.page!.id }),
            ...{ brand: null, intent: null, group: null, ranges: [], from: 0, limit: MOST_SEARCHES },
            sort: { column: shown.by, falling: true },
          })
        : null;
    const snapshot = opening.page
      ? latestEvidence(context.db, context.site.id).get(opening.page.id)
      : undefined;
    const words = snapshot
      ? pageWords(snapshot.evidence, wordsOfSite(context.db, context.site).lexicon)
      : null;
    const asked = opening.query
      ? [opening.query.id]
      : [...(rows?.lines ?? [])]
          .sort((a, b) => (b.metrics.impressions.after ?? 0) - (a.metrics.impressions.after ?? 0))
          .flatMap(({ query }) => query?.id ?? []);
    const lookedUp = new Map(
      lookedUpQueries(context.db, context.site.id).map(({ query, newest }) => [query.id, newest]),
    );
    return {
      wording: asked.flatMap((id) => lookedUp.get(id) ?? [])[0] ?? null,
      opening: this.asItStands(context, opening),
      span: found.span,
      months: spanLength(found.span) / MONTH_DAYS,
      searches: (rows?.lines ?? []).map((line) => ({
        line,
        said: words && line.query ? saidOn(words, line.query.text) : null,
      })),
      more: Math.max(0, (rows?.total ?? 0) - MOST_SEARCHES),
      title: snapshot?.evidence.title ?? null,
      description: snapshot?.evidence.description ?? null,
      seenOn: snapshot?.lastDay ?? null,
      clicksNow: opening.page ? clicksAMonth(context, this.finders, opening.page.id) : 0,
      came: this.finders.books.kind(context, KINDS[opening.kind].remedy.kind),
    };
  }

  private async all(context: SiteContext, wished: Span | null): Promise<Openings | null> {
    const { db, site, lastReadable, today } = context;
    if (lastReadable === null) return null;
    const span = wished ?? { firstDay: addDays(lastReadable, 1 - OPENING_DAYS), lastDay: lastReadable };
    const key = [
      ...[figuresStamp(db, site.id), span.firstDay, span.lastDay, today, traitsStamp(db, site.id)],
      ...[site.settlingDays, site.language, JSON.stringify(siteWords(db, site.id, site.language))],
      ...[site.brandWords.join('|'), site.worthOfClick, site.worthOfConversion],
    ].join('/');
    const known = this.kept.get(site.id);
    if (known?.key === key) return known.found;
    const found = findOpenings(context, this.finders, span);
    this.kept.set(site.id, { key, found });
    found.catch(() => this.kept.delete(site.id));
    return found;
  }

  private asItStands(context: SiteContext, opening: NamedOpening): TimedOpening {
    const busy = opening.page && (busyPages(context).get(opening.page.id) ?? null);
    const { page, gain, kind } = opening;
    const came = this.finders.books.kind(context, KINDS[kind].remedy.kind);
    const now = page ? clicksAMonth(context, this.finders, page.id) : 0;
    return {
      ...{ ...opening, busy, daysToShow: this.daysToShow(context, opening) },
      expected: expectedGain(now, gain, came?.line.pooled ?? null),
    };
  }

  /** After how many days a page could show what an opening would bring; worked out once. */
  private daysToShow(context: SiteContext, opening: NamedOpening): number | null {
    const { site, known } = context;
    const { page, gain, figures, key } = opening;
    if (!page || !gain || !known || !(figures['clicks']! > 0)) return null;
    // Of a large site only the pages of the panel are known so well; to learn of another one would take seconds.
    const engine = this.finders.engines.engine(site, known);
    if (!engine) return null;
    const shown = this.shownIn.get(engine) ?? new Map<string, number | null>();
    this.shownIn.set(engine, shown);
    const slot = `${key}/${gain.clicks}/${site.settlingDays}`;
    const days = shown.has(slot) ? shown.get(slot)! : this.showableIn(context, engine, opening);
    shown.set(slot, days);
    return days;
  }

  private showableIn(
    context: SiteContext,
    engine: EffectEngine,
    { kind, page, gain }: NamedOpening,
  ): number | null {
    const { site, lastReadable } = context;
    if (!page || !gain || lastReadable === null) return null;
    const { metric } = KINDS[kind].remedy;
    const now = clicksAMonth(context, this.finders, page.id);
    if (engine.history.row(page.id) === undefined || now <= 0) return null;
    const wanted = 1 + gain.clicks / now;
    const able = engine.showable(metric, addDays(lastReadable, 1), [page.id], SHOWN_AFTER, site.settlingDays);
    return able.find(({ ratio }) => ratio <= wanted)?.windowDays ?? null;
  }
}

/** The openings that nobody has put aside, or that would bring much more by now than when they were. */
function worthwhile({ db, site }: SiteContext, { openings }: Openings): NamedOpening[] {
  const passed = passedOpenings(db, site.id);
  return openings.filter(
    ({ key, gain }) => !staysAside(passed.get(key)?.clicksAMonth ?? null, gain?.clicks ?? 0),
  );
}

function clicksAMonth({ site, lastReadable }: SiteContext, { engines }: Finders, pageId: number): number {
  const series = engines.figures(site)?.series.find(({ id }) => id === pageId);
  if (!series || lastReadable === null) return 0;
  let sum = 0;
  for (let day = lastReadable - 29; day <= lastReadable; day++)
    sum += series.clicks[day - series.firstDay] ?? 0;
  return sum;
}
