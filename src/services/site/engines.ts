import { LRUCache } from 'lru-cache';
import { positionCurve, type PositionCurve } from '../../core/appeal/positionCurve';
import { addDays, type Day } from '../../core/calendar/day';
import type { Span } from '../../core/calendar/span';
import { EffectEngine } from '../../core/effect/engine';
import { controlSample } from '../../core/effect/panel';
import type { FitMode } from '../../core/effect/incrementalFit';
import { History, type Series } from '../../core/history/history';
import { DEVICES } from '../../core/intake/rowReader';
import type { Change, PageRef } from '../../core/model/change';
import type { Site } from '../../core/model/site';
import type { PageDay } from '../../core/reading/input';
import type { Reading } from '../../core/reading/readingModel';
import type { PartShares } from '../../core/reading/shares';
import type { Db } from '../../store/database';
import { hasPagelessRows, pagelessId } from '../../store/figures/layers';
import { narrowedSeries } from '../../store/figures/narrowed';
import { countryShares, querySeries } from '../../store/figures/queries';
import { StaleDataError, type ModelInputs } from './learning';
import { ReadingsKept } from '../reading/readingsKept';
import type { SiteContext } from './siteContext';
import { figuresStamp } from '../../store/figures/figuresStamp';
import { SiteFigures } from './siteFigures';

/**
 * Cache sizes: sites, engines of pages, engines of parts of them, and engines of single queries.
 */
const [MOST_SITES, MOST_ENGINES, MOST_PARTS, MOST_QUERY_ENGINES] = [12, 6, 3, 8];

/** Pages whose rows by query are gone through for a part of the figures. */
const MOST_PART_PAGES = 60;

/** A part of a site's figures: codes of a device and a country, 0 for all of them. */
export type Part = { readonly device: number; readonly country: number };
/** The id of the row that is a whole site. */
export const SITE_ROW = -1_000_000_000;
export const WHOLE: Part = { device: 0, country: 0 };

/**
 * Caches the figures of sites and the models fitted to them. Everything can be rebuilt from the
 * database.
 */
export class Engines {
  private readonly sites = new LRUCache<number, Kept<SiteFigures>>({ max: MOST_SITES });
  private readonly engines = new LRUCache<string, Kept<EffectEngine>>({ max: MOST_ENGINES });
  private readonly partEngines = new LRUCache<string, Kept<EffectEngine>>({ max: MOST_PARTS });
  private readonly queryEngines = new LRUCache<string, Kept<EffectEngine>>({ max: MOST_QUERY_ENGINES });
  private readonly readings = new LRUCache<string, ReadingsKept>({ max: MOST_SITES });
  private readonly lists = new WeakMap<SiteContext, Map<string, readonly Reading[]>>();

  /** `fellBehind` is told of a site of which more is to be learned elsewhere. */
  constructor(
    private readonly db: Db,
    private readonly fellBehind: (siteId: number) => void = () => undefined,
    private readonly pace: FitMode = { inSteps: false },
  ) {}

  /**
   * The engine of a site’s pages, or of a part of their figures; null without figures. On a large
   * site it holds the control sample, changed pages with figures since, and pages asked for.
   */
  engine(
    site: Site,
    known: ModelInputs,
    { device, country }: Part = WHOLE,
    also: readonly number[] = [],
  ): EffectEngine | null {
    const figures = this.figures(site);
    if (!figures) return null;
    const whole = device === 0 && country === 0;
    // What was known on an earlier day takes the place of another such day, never of today.
    const slot = `${site.id}/${device}/${country}/${this.isNow(figures, known) ? 'now' : 'then'}`;
    const settled = settledOf(known);
    const further = figures.series.length <= also.length ? [] : this.missing(figures, settled, also);
    const cache = whole && further.length === 0 ? this.engines : this.partEngines;
    const key = `${this.keyOf(site, settled)}/${further.join(',')}`;
    const before = cache === this.engines && this.learnedBefore(slot, key, site, known);
    if (before) return before;
    return kept(cache, slot, key, () => {
      const chosen = this.panel(figures, settled.changes, further);
      const series = whole
        ? chosen.series.map((one) => figures.withShowings(one))
        : this.partSeries(figures, chosen.series, { device, country }).map((one) =>
            figures.withPartShowings(one, { device, country }),
          );
      return engineOf(figures, series, settled, chosen.control, [], this.pace);
    });
  }

  /**
   * A model fitted to the same figures and other changes, while a newer one is fitted elsewhere.
   */
  private learnedBefore(slot: string, key: string, site: Site, known: ModelInputs): EffectEngine | null {
    if (known.learning === undefined || known.learning === 'here') return null;
    const before = this.engines.get(slot);
    if (!before || before.key === key || !before.key.startsWith(this.figuresKey(site, known))) return null;
    this.fellBehind(site.id);
    if (known.learning === 'waited for') throw new StaleDataError();
    return before.made;
  }

  /**
   * The engine of the queries of pages, or of a part of them, against the control of the site’s
   * pages.
   */
  queryEngine(
    site: Site,
    known: ModelInputs,
    pages: readonly number[],
    query: { readonly text: string; readonly id: number | null },
    part: Part = WHOLE,
  ): EffectEngine | null {
    const figures = this.figures(site);
    if (!figures) return null;
    const slot = `${site.id}/${pages.join(',')}/${query.text}/${part.device}/${part.country}`;
    const settled = settledOf(known);
    return kept(this.queryEngines, slot, this.keyOf(site, settled), () => {
      const { series, control } = this.panel(figures, []);
      const rows = [...this.seriesOfQueries(site, pages, query, part)].map((one) =>
        figures.withPlainShowings(one),
      );
      return engineOf(
        figures,
        series.map((one) => figures.withShowings(one)),
        settled,
        control,
        rows,
        this.pace,
      );
    });
  }

  private seriesOfQueries(
    site: Site,
    pages: readonly number[],
    { text, id }: { readonly text: string; readonly id: number | null },
    part: Part,
  ): Series[] {
    const all = querySeries(this.db, site.id, pages, text);
    if ((part.device === 0 && part.country === 0) || id === null) return all;
    // Of a part of the query itself; the others on the page show whole how far queries wander.
    const own = narrowedSeries(this.db, pages, { query: id, ...part });
    const first = all.find((one) => one.id === -id);
    const others = all.filter((one) => one !== first);
    return own.length === 0 ? others : [addedUp(-id, pages, own), ...others];
  }

  /** Parts of a site by path or as stated, with the pages of each that an engine has. */
  partsOf(site: Site, engine: EffectEngine): { name: string; pages: number[] }[] {
    const figures = this.figures(site);
    if (!figures) return [];
    const ids = Array.from({ length: engine.history.rows }, (_, row) => engine.history.idOf(row));
    const { of, names } = figures.groupsOf(ids);
    const parts = names.map((name, i) => ({ name, pages: ids.filter((_, row) => of[row] === i) }));
    return parts.filter(({ name, pages }) => name !== '' && pages.length > 0);
  }

  /**
   * The list of readings of all changes of a site: once per context, reusing valid ones of the last
   * list.
   */
  listOf(
    context: SiteContext,
    name: string,
    make: (kept: ReadingsKept) => readonly Reading[],
  ): readonly Reading[] {
    const lists = this.lists.get(context) ?? new Map<string, readonly Reading[]>();
    this.lists.set(context, lists);
    const slot = `${context.site.id}/${context.asOf}/${name}`;
    const kept = this.readings.get(slot) ?? new ReadingsKept();
    this.readings.set(slot, kept);
    const list = lists.get(name) ?? make(kept);
    lists.set(name, list);
    return list;
  }

  /** The site's CTR by position, without searches for the site itself. */
  curve(site: Site): PositionCurve {
    return this.figures(site)?.curve ?? positionCurve([]);
  }

  /** Impressions of pages by device and by country in two spans. */
  shares(site: Site, pages: readonly number[], before: Span, after: Span): PartShares[] {
    const figures = this.figures(site);
    if (!figures) return [];
    const devices = Object.entries(DEVICES).flatMap(([name, device]) => {
      if (device === 0) return [];
      const series = figures.deviceSeries(device);
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
    return this.figures(site)?.pages(ids) ?? [];
  }

  /** Daily figures of a part of some pages within a span. */
  partDays(site: Site, pages: readonly number[], part: Part, span: Span): PageDay[] {
    const figures = this.figures(site);
    if (!figures) return [];
    const wanted = new Set(pages);
    return this.partSeries(
      figures,
      figures.series.filter(({ id }) => wanted.has(id)),
      part,
    ).flatMap((one) => daysOf(one, span));
  }

  private partSeries(figures: SiteFigures, pages: readonly Series[], part: Part): Series[] {
    if (part.country === 0) return pages.flatMap(({ id }) => figures.deviceSeries(part.device).get(id) ?? []);
    return narrowedSeries(
      this.db,
      pages.map(({ id }) => id),
      { query: 0, ...part },
    );
  }

  /** The pages of an engine, control included: on a large site a sample, and changed pages. */
  private panel(figures: SiteFigures, changes: readonly Change[], further: readonly number[] = []) {
    const control = this.controlOf(figures);
    const changed = new Set([
      ...further,
      ...changes.flatMap((change) => change.pages.map((page) => page.id)),
    ]);
    return { series: figures.series.filter(({ id }) => control.has(id) || changed.has(id)), control };
  }

  private readonly controls = new WeakMap<SiteFigures, ReadonlySet<number>>();

  /** The pages of a site that are the control, as long as its figures stay the same. */
  private controlOf(figures: SiteFigures): ReadonlySet<number> {
    const known = this.controls.get(figures);
    if (known) return known;
    const ids = figures.series.map(({ id }) => id);
    const { of } = figures.groupsOf(ids);
    const groupOf = new Map(ids.map((id, i) => [id, of[i]!]));
    const control = controlSample(figures.series, (id) => groupOf.get(id) ?? 0);
    this.controls.set(figures, control);
    return control;
  }

  /** Those of some pages that would not be in the panel anyway. */
  private missing(figures: SiteFigures, { changes }: ModelInputs, ids: readonly number[]): number[] {
    if (ids.length === 0) return [];
    const { series } = this.panel(figures, changes);
    const there = new Set(series.map(({ id }) => id));
    return ids.filter((id) => !there.has(id));
  }

  /** The engine of the whole site as one row, SITE_ROW, which has no control. */
  siteEngine(site: Site, known: ModelInputs, part: Part = WHOLE): EffectEngine | null {
    const figures = this.figures(site);
    if (!figures) return null;
    const slot = `${site.id}/site/${part.device}`;
    const settled = settledOf(known);
    return kept(this.partEngines, slot, this.keyOf(site, settled), () => {
      const whole = part.device === 0 && part.country === 0;
      const all = whole ? figures.series : this.partSeries(figures, figures.series, part);
      const pages = all.map((one) =>
        whole ? figures.withShowingsKnown(one) : figures.withPlainShowings(one),
      );
      return engineOf(figures, [], settled, new Set(), [addedUp(SITE_ROW, [], pages)], this.pace);
    });
  }

  /**
   * Whether appeal is known for a part of the figures: rows by query must be split like the part.
   * Not for many pages together, whose rows by query are millions.
   */
  knowsAppealOf(site: Site, part: Part, pages: number): boolean {
    if (part.device === 0 && part.country === 0) return true;
    return pages <= MOST_PART_PAGES && (this.figures(site)?.knowsQueriesOf(part) ?? false);
  }

  /** The ids of all pages of a site that have figures. */
  pageIds(site: Site): number[] {
    return this.figures(site)?.series.map(({ id }) => id) ?? [];
  }

  /** The pages of a site, plus `pagelessId` if it has query rows without a page. */
  pageIdsForQueries(site: Site): number[] {
    const pages = this.pageIds(site);
    return hasPagelessRows(this.db, site.id) ? [...pages, pagelessId(site.id)] : pages;
  }

  private isNow(figures: SiteFigures, { lastReadable }: ModelInputs): boolean {
    return lastReadable > addDays(figures.lastDay, -LATELY);
  }

  private keyOf(site: Site, { changes, lastReadable }: ModelInputs): string {
    const made = changes.map((change) => `${change.day}:${change.pages.map((page) => page.id).join('+')}`);
    return `${this.figuresKey(site, { lastReadable })}${made.join(' ')}`;
  }

  private figuresKey(site: Site, { lastReadable }: Pick<ModelInputs, 'lastReadable'>): string {
    return `${figuresStamp(this.db, site.id)}/${lastReadable}/`;
  }

  /** The figures of a site as they stand in the database; null where it has none. */
  figures(site: Site): SiteFigures | null {
    const stamp = figuresStamp(this.db, site.id);
    const known = this.sites.get(site.id);
    if (known?.key === stamp) return known.made;
    const made = SiteFigures.of(this.db, site);
    if (made) this.sites.set(site.id, { key: stamp, made });
    return made;
  }
}

/** The newest days of a feed, which are still revised. */
const LATELY = 14;

/**
 * Model inputs without changes after the last readable day: no figure reflects them, so logging
 * today’s work needs no refit.
 */
function settledOf(known: ModelInputs): ModelInputs {
  return { ...known, changes: known.changes.filter(({ day }) => day <= known.lastReadable) };
}

/** What was made, and all that it depends on. */
type Kept<T> = { readonly key: string; readonly made: T };

/** The cached value of a slot if its key matches, otherwise a new one. */
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

/**
 * An engine of pages, some of which are the control, and of rows that are only read. It ends at the
 * last readable day.
 */
function engineOf(
  figures: SiteFigures,
  pages: readonly Series[],
  { changes, lastReadable }: ModelInputs,
  control: ReadonlySet<number>,
  further: readonly Series[],
  pace: FitMode,
): EffectEngine {
  const rows = [...pages, ...further];
  const groups = figures.groupsOf(rows.map((one) => one.pages?.[0] ?? one.id));
  const { firstDay, lastDay, covered } = figures;
  const days = Math.max(0, Math.min(lastDay, lastReadable) - firstDay + 1);
  const roles = {
    control: Uint8Array.from(rows, (one, row) => (row < pages.length && control.has(one.id) ? 1 : 0)),
    // Of single queries it is learned how far queries wander, not pages.
    learnedFrom: Uint8Array.from(rows, (_, row) => (further.length === 0 || row >= pages.length ? 1 : 0)),
  };
  const history = new History(firstDay, days, rows, covered);
  return new EffectEngine(history, groups, changes, lastReadable, roles, pace);
}

/** Series of several pages as one row. */
function addedUp(id: number, pages: readonly number[], series: readonly Series[]): Series {
  const firstDay = Math.min(...series.map((one) => one.firstDay)) as Day;
  const lastDay = Math.max(...series.map((one) => one.firstDay + one.clicks.length));
  const sum = (of: 'clicks' | 'impressions' | 'positionSum' | 'positionWeight' | 'expected') => {
    const total = new Float64Array(lastDay - firstDay);
    for (const one of series) {
      const column = one[of] ?? one.impressions;
      for (let at = 0; at < column.length; at++) total[at + one.firstDay - firstDay]! += column[at]!;
    }
    return total;
  };
  const hasExpected = series.some(({ expected }) => expected !== undefined);
  return {
    ...(hasExpected ? { expected: sum('expected') } : {}),
    ...{ id, pages, firstDay, clicks: sum('clicks'), impressions: sum('impressions') },
    ...{ positionSum: sum('positionSum'), positionWeight: sum('positionWeight') },
  };
}

/** The days of a series within a span on which there were showings. */
export function daysOf(one: Series, span: Span): PageDay[] {
  const days: PageDay[] = [];
  for (let day = span.firstDay; day <= span.lastDay; day = addDays(day, 1)) {
    const at = day - one.firstDay;
    const impressions = one.impressions[at] ?? 0;
    if (impressions === 0) continue;
    days.push({
      ...{ day, clicks: one.clicks[at]!, impressions, fromQueries: false },
      ...{ positionSum: one.positionSum[at]!, positionWeight: one.positionWeight[at]! },
    });
  }
  return days;
}

function impressionsIn(series: Series | undefined, { firstDay, lastDay }: Span): number {
  if (!series) return 0;
  let sum = 0;
  for (let day = firstDay; day <= lastDay; day++) sum += series.impressions[day - series.firstDay] ?? 0;
  return sum;
}
