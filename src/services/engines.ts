import { LRUCache } from 'lru-cache';
import { addDays, type Day } from '../core/calendar/day';
import type { Span } from '../core/calendar/span';
import { History, type Series } from '../core/history/history';
import { DEVICES } from '../core/intake/rowReader';
import type { Change, PageRef } from '../core/model/change';
import type { Site } from '../core/model/site';
import { pageGroups } from '../core/effect/groups';
import { choosePanel } from '../core/effect/panel';
import { EffectEngine } from '../core/effect/engine';
import type { PageDay } from '../core/reading/input';
import type { Reading } from '../core/reading/model';
import type { PartShares } from '../core/reading/shares';
import { brandWords } from '../core/reasons/brand';
import { positionCurve, type PositionCurve } from '../core/reasons/positionCurve';
import { pageAttribute } from '../store/figures/attributes';
import { coveredDaysIn } from '../store/figures/days';
import { prepared, type Db } from '../store/database';
import { listPages } from '../store/addresses/pages';
import { countryShares, positionBins, querySeries } from '../store/figures/queries';
import { siteSeries } from '../store/figures/series';

/** A site's figures in memory. */
type SiteFigures = {
  readonly stamp: string;
  readonly series: readonly Series[];
  readonly addresses: ReadonlyMap<number, string>;
  /** The groups that files state of pages. */
  readonly groups: ReadonlyMap<number, string>;
  readonly firstDay: Day;
  readonly days: number;
  readonly covered: ReadonlySet<Day>;
  /** Pages by the device code of their rows, fetched when first asked for. */
  readonly byDevice: Map<number, ReadonlyMap<number, Series>>;
  curve: PositionCurve | null;
};

/** What is kept in memory at most: sites, engines of pages and devices, engines of single queries. */
const [MOST_SITES, MOST_ENGINES, MOST_QUERY_ENGINES] = [12, 24, 8];
/** Pages, the most clicked, whose query rows the CTR by position is learned from. */
const CURVE_PAGES = 40;

/**
 * Keeps the figures of sites in memory and what was learned from them, as long as they stay the same. Everything in it
 * can be had again from the database.
 */
export class Engines {
  private readonly figures = new LRUCache<number, SiteFigures>({ max: MOST_SITES });
  private readonly engines = new LRUCache<string, Kept<EffectEngine>>({ max: MOST_ENGINES });
  private readonly queryEngines = new LRUCache<string, Kept<EffectEngine>>({ max: MOST_QUERY_ENGINES });
  private readonly lists = new LRUCache<number, Kept<readonly Reading[]>>({ max: MOST_SITES });

  constructor(private readonly db: Db) {}

  /** The engine of a site's pages, or of one device on them; null where the site has no figures. */
  engine(site: Site, changes: readonly Change[], lastReadable: Day, device: number): EffectEngine | null {
    const figures = this.figuresOf(site);
    if (!figures) return null;
    const slot = `${site.id}/${device}`;
    const key = `${figures.stamp}/${lastReadable}/${changesKey(changes)}`;
    return kept(this.engines, slot, key, () => {
      const series = device === 0 ? figures.series : [...this.deviceSeries(site, figures, device).values()];
      return panelEngine(figures, series, changes, lastReadable, []);
    });
  }

  /**
   * The engine of a site's pages in which all pages are one group, so that what a whole part of the site did shows against
   * the rest of it; and the parts by name, with the pages of each.
   */
  wholeSite(
    site: Site,
    changes: readonly Change[],
    lastReadable: Day,
  ): { engine: EffectEngine; parts: { name: string; pages: number[] }[] } | null {
    const figures = this.figuresOf(site);
    if (!figures) return null;
    const slot = `${site.id}/whole`;
    const key = `${figures.stamp}/${lastReadable}/${changesKey(changes)}`;
    const engine = kept(this.engines, slot, key, () =>
      panelEngine(figures, figures.series, changes, lastReadable, [], true),
    );
    const ids = Array.from({ length: engine.history.rows }, (_, row) => engine.history.idOf(row));
    const { of, names } = groupsOf(figures, ids);
    const parts = names.map((name, i) => ({ name, pages: ids.filter((_, row) => of[row] === i) }));
    return { engine, parts: parts.filter(({ name, pages }) => name !== '' && pages.length > 0) };
  }

  /** The engine of the queries of a change's pages, against the yardstick of the site's pages. */
  queryEngine(
    site: Site,
    changes: readonly Change[],
    pages: readonly number[],
    query: string,
    lastReadable: Day,
  ): EffectEngine | null {
    const figures = this.figuresOf(site);
    if (!figures) return null;
    const slot = `${site.id}/${pages.join(',')}/${query}`;
    const key = `${figures.stamp}/${lastReadable}/${changesKey(changes)}`;
    return kept(this.queryEngines, slot, key, () =>
      panelEngine(
        figures,
        figures.series,
        changes,
        lastReadable,
        querySeries(this.db, site.id, pages, query),
      ),
    );
  }

  /**
   * The readings of all changes of a site as they were last made, if they were made from the same: `known` is all that
   * they depend on besides the figures.
   */
  list(site: Site, known: string, make: () => Reading[]): readonly Reading[] {
    return kept(this.lists, site.id, `${this.figuresOf(site)?.stamp}/${known}`, make);
  }

  /** The site's CTR by position, without searches for the site itself. */
  curve(site: Site): PositionCurve {
    const figures = this.figuresOf(site);
    if (!figures) return positionCurve([]);
    figures.curve ??= positionCurve(
      positionBins(
        this.db,
        mostClicked(figures.series, CURVE_PAGES),
        { firstDay: figures.firstDay, lastDay: addDays(figures.firstDay, figures.days) },
        brandWords(site.name, site.address),
      ),
    );
    return figures.curve;
  }

  /** Impressions of pages by device and by country in two spans. */
  shares(site: Site, pages: readonly number[], before: Span, after: Span): PartShares[] {
    const figures = this.figuresOf(site);
    if (!figures) return [];
    const devices = Object.entries(DEVICES).flatMap(([name, device]) => {
      if (device === 0) return [];
      const series = this.deviceSeries(site, figures, device);
      const sum = (span: Span) => pages.reduce((total, id) => total + impressionsIn(series.get(id), span), 0);
      return { name, before: sum(before), after: sum(after) };
    });
    return [
      { by: 'device', parts: devices },
      { by: 'country', parts: countryShares(this.db, pages, before, after) },
    ];
  }

  /** Pages of a site by their ids, in the order of their addresses. */
  pages(site: Site, ids: readonly number[]): PageRef[] {
    const addresses = this.figuresOf(site)?.addresses;
    return ids
      .flatMap((id) => {
        const address = addresses?.get(id);
        return address === undefined ? [] : { id, address };
      })
      .sort((a, b) => (a.address < b.address ? -1 : 1));
  }

  /** Daily figures of one device on some pages within a span. */
  deviceDays(site: Site, pages: readonly number[], device: number, span: Span): PageDay[] {
    const figures = this.figuresOf(site);
    if (!figures) return [];
    const series = this.deviceSeries(site, figures, device);
    return pages.flatMap((id) => {
      const one = series.get(id);
      if (!one) return [];
      const days: PageDay[] = [];
      for (let day = span.firstDay; day <= span.lastDay; day = addDays(day, 1)) {
        const at = day - one.firstDay;
        const impressions = one.impressions[at] ?? 0;
        if (impressions === 0) continue;
        days.push({
          day,
          clicks: one.clicks[at]!,
          impressions,
          positionSum: one.positionSum[at]!,
          positionWeight: one.positionWeight[at]!,
          fromQueries: false,
        });
      }
      return days;
    });
  }

  private deviceSeries(site: Site, figures: SiteFigures, device: number): ReadonlyMap<number, Series> {
    const known = figures.byDevice.get(device);
    if (known) return known;
    const series = new Map(siteSeries(this.db, site.id, device).map((one) => [one.id, one]));
    figures.byDevice.set(device, series);
    return series;
  }

  private figuresOf(site: Site): SiteFigures | null {
    const stamp = figuresStamp(this.db, site.id);
    const known = this.figures.get(site.id);
    if (known?.stamp === stamp) return known;
    const series = siteSeries(this.db, site.id);
    if (series.length === 0) return null;
    const firstDay = Math.min(...series.map((one) => one.firstDay)) as Day;
    const lastDay = Math.max(...series.map((one) => one.firstDay + one.clicks.length - 1)) as Day;
    const figures: SiteFigures = {
      stamp,
      series,
      addresses: new Map(listPages(this.db, site.id).map((page) => [page.id, page.address])),
      groups: pageAttribute(this.db, site.id, 'group'),
      firstDay,
      days: lastDay - firstDay + 1,
      covered: coveredDaysIn(this.db, site.id, { firstDay, lastDay }),
      byDevice: new Map(),
      curve: null,
    };
    this.figures.set(site.id, figures);
    return figures;
  }
}

/** What was made, and all that it depends on. */
type Kept<T> = { readonly key: string; readonly made: T };

/** What stands in a slot if it was made under the same key; otherwise it is made anew and takes the slot. */
function kept<S extends string | number, T>(
  cache: LRUCache<S, Kept<T>>,
  slot: S,
  key: string,
  make: () => T,
): T {
  const known = cache.get(slot);
  if (known?.key === key) return known.made;
  const made = make();
  cache.set(slot, { key, made });
  return made;
}

/** Changes when figures of a site were brought in, undone, or came to belong to other pages. */
function figuresStamp(db: Db, siteId: number): string {
  const row = prepared<[number], { n: number; last: string | null }>(
    db,
    `SELECT count(*) AS n, max(finished_at) AS last FROM import WHERE site_id = ? AND state = 'done'`,
  ).get(siteId);
  const rules = prepared<[number], string | null>(db, 'SELECT keyed_at FROM site WHERE id = ?')
    .pluck()
    .get(siteId);
  return `${row?.n}@${row?.last}@${rules ?? ''}`;
}

function changesKey(changes: readonly Change[]): string {
  return changes.map((change) => `${change.day}:${change.pages.map((page) => page.id).join('+')}`).join(' ');
}

/** The groups of some pages: as files state them, else by their paths. */
function groupsOf({ addresses, groups }: SiteFigures, ids: readonly number[]) {
  return pageGroups(
    ids.map((id) => addresses.get(id) ?? ''),
    ids.map((id) => groups.get(id) ?? null),
  );
}

/** A engine over the pages that make up the yardstick, those that were changed, and further rows that only are read. */
function panelEngine(
  figures: SiteFigures,
  series: readonly Series[],
  changes: readonly Change[],
  lastReadable: Day,
  further: readonly Series[],
  asOneGroup = false,
): EffectEngine {
  const changed = new Set(changes.flatMap((change) => change.pages.map((page) => page.id)));
  const panel = choosePanel(series, changed);
  const pages = further.length > 0 ? panel.series.slice(0, panel.yardstick) : panel.series;
  const rows = [...pages, ...further];
  const groups = asOneGroup
    ? { of: new Int32Array(rows.length), count: 1 }
    : groupsOf(
        figures,
        rows.map((one) => one.pages?.[0] ?? one.id),
      );
  const { firstDay, days, covered } = figures;
  return new EffectEngine(new History(firstDay, days, rows, covered), groups, changes, lastReadable, {
    yardstick: panel.yardstick,
    firstSubject: further.length > 0 ? panel.yardstick : 0,
  });
}

function mostClicked(series: readonly Series[], most: number): number[] {
  const total = ({ clicks }: Series) => {
    let sum = 0;
    for (let i = 0; i < clicks.length; i++) sum += clicks[i]!;
    return sum;
  };
  return series
    .map((one) => ({ id: one.id, clicks: total(one) }))
    .sort((a, b) => b.clicks - a.clicks)
    .slice(0, most)
    .map(({ id }) => id);
}

function impressionsIn(series: Series | undefined, { firstDay, lastDay }: Span): number {
  if (!series) return 0;
  let sum = 0;
  for (let day = firstDay; day <= lastDay; day++) sum += series.impressions[day - series.firstDay] ?? 0;
  return sum;
}
