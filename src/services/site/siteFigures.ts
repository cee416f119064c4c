import { positionCurve, type PositionCurve } from '../../core/appeal/positionCurve';
import { plainShowings, type Showings } from '../../core/appeal/showings';
import { addDays, type Day } from '../../core/calendar/day';
import type { Span } from '../../core/calendar/span';
import { pageGroups } from '../../core/effect/groups';
import type { Series } from '../../core/history/history';
import type { PageRef } from '../../core/model/change';
import type { Site } from '../../core/model/site';
import { brandWords } from '../../core/reasons/brand';
import { pageAttribute } from '../../store/figures/attributes';
import { coveredDaysIn } from '../../store/figures/coverage';
import type { Db } from '../../store/database';
import { listPages } from '../../store/addresses/pages';
import { sumIn } from '../../store/figures/pairs';
import { ALWAYS } from '../../store/figures/layers';
import { hasQueryRows } from '../../store/figures/narrowed';
import { pageShowings, positionBins } from '../../store/figures/queries';
import { siteSeries } from '../../store/figures/series';

/** Pages, the most clicked, whose query rows the CTR by position is learned from. */
const CURVE_PAGES = 40;

/** The figures of a site in memory; derived values are computed on first use. */
export class SiteFigures {
  readonly series: readonly Series[];
  readonly firstDay: Day;
  readonly lastDay: Day;
  readonly covered: ReadonlySet<Day>;
  private readonly addresses: ReadonlyMap<number, string>;
  /** The groups that files state of pages. */
  private readonly stated: ReadonlyMap<number, string>;
  private readonly byDevice = new Map<number, ReadonlyMap<number, Series>>();
  private readonly showings = new Map<number, Showings>();
  private curveKnown: PositionCurve | null = null;

  private constructor(
    private readonly db: Db,
    private readonly site: Site,
    series: readonly Series[],
  ) {
    this.series = series;
    this.firstDay = Math.min(...series.map((one) => one.firstDay)) as Day;
    this.lastDay = Math.max(...series.map((one) => one.firstDay + one.clicks.length - 1)) as Day;
    this.addresses = new Map(listPages(db, site.id).map((page) => [page.id, page.address]));
    this.stated = pageAttribute(db, site.id, 'group');
    this.covered = coveredDaysIn(db, site.id, { firstDay: this.firstDay, lastDay: this.lastDay });
  }

  /** The figures of a site; null where it has none. */
  static of(db: Db, site: Site): SiteFigures | null {
    const series = siteSeries(db, site.id);
    return series.length === 0 ? null : new SiteFigures(db, site, series);
  }

  /** The site's CTR by position, without searches for the site itself. */
  get curve(): PositionCurve {
    return (this.curveKnown ??= positionCurve(
      positionBins(
        this.db,
        mostClicked(this.series, CURVE_PAGES),
        { firstDay: this.firstDay, lastDay: addDays(this.lastDay, 1) },
        brandWordsOf(this.site),
      ),
    ));
  }

  /** A page's series with what its showings come to, from its rows by query. */
  withShowings(page: Series): Series {
    let known = this.showings.get(page.id);
    if (!known) this.showings.set(page.id, (known = pageShowings(this.db, page, this.curve)));
    return { ...page, ...known };
  }

  /**
   * With expected clicks if already computed, else at the mean position of each day: all pages of a
   * large site have millions of rows.
   */
  withShowingsKnown(page: Series): Series {
    const known = this.showings.get(page.id);
    return known ? { ...page, ...known } : this.withPlainShowings(page);
  }

  /** Expected clicks of a page in spans; null without figures. */
  expectedOf(pageId: number, spans: readonly Span[]): number[] | null {
    const page = this.series.find(({ id }) => id === pageId);
    if (!page) return null;
    const within = {
      firstDay: Math.min(...spans.map(({ firstDay }) => firstDay)) as Day,
      lastDay: Math.max(...spans.map(({ lastDay }) => lastDay)) as Day,
    };
    const { expected } = this.showings.get(pageId) ?? pageShowings(this.db, page, this.curve, within);
    return spans.map((span) => sumIn(expected, page.firstDay, span));
  }

  /**
   * Whether rows by query are split by a device and a country (codes, 0 for all). Without them
   * appeal of the part would be computed at mean positions, a different measure.
   */
  knowsQueriesOf(part: { readonly device: number; readonly country: number }): boolean {
    const name = `${part.device}/${part.country}`;
    const known =
      this.dividedQueries.get(name) ?? hasQueryRows(this.db, mostClicked(this.series, CURVE_PAGES), part);
    this.dividedQueries.set(name, known);
    return known;
  }
  private readonly dividedQueries = new Map<string, boolean>();

  /**
   * A series of part of a page’s figures with expected clicks, from rows by query if these are
   * split alike.
   */
  withPartShowings(series: Series, part: { readonly device: number; readonly country: number }): Series {
    return this.knowsQueriesOf(part)
      ? { ...series, ...pageShowings(this.db, series, this.curve, ALWAYS, part) }
      : this.withPlainShowings(series);
  }

  /** A series of part of a page’s figures with expected clicks at the mean position of each day. */
  withPlainShowings(series: Series): Series {
    return { ...series, expected: plainShowings(series, this.curve) };
  }

  /** The series of one device on all pages that have it. */
  deviceSeries(device: number): ReadonlyMap<number, Series> {
    let known = this.byDevice.get(device);
    if (!known) {
      known = new Map(siteSeries(this.db, this.site.id, device).map((one) => [one.id, one]));
      this.byDevice.set(device, known);
    }
    return known;
  }

  /** The series of all pages, of one device or (0) of all together. */
  seriesOf(device: number): readonly Series[] {
    return device === 0 ? this.series : [...this.deviceSeries(device).values()];
  }

  /** The groups of some pages: as files state them, else by their paths. */
  groupsOf(ids: readonly number[]) {
    return pageGroups(
      ids.map((id) => this.addresses.get(id) ?? ''),
      ids.map((id) => this.stated.get(id) ?? null),
    );
  }

  /** All pages that have figures, in the order of their addresses. */
  get allPages(): readonly PageRef[] {
    return (this.pagesKnown ??= this.pages(this.series.map(({ id }) => id)));
  }
  private pagesKnown: readonly PageRef[] | null = null;

  /** The name of the group of each page that has figures, and all of the names. */
  get groups(): { readonly nameOf: ReadonlyMap<number, string>; readonly names: readonly string[] } {
    if (!this.groupsKnown) {
      const ids = this.series.map(({ id }) => id);
      const { of, names } = this.groupsOf(ids);
      this.groupsKnown = {
        nameOf: new Map(ids.map((id, i) => [id, names[of[i]!] ?? ''])),
        names: names.filter(Boolean).sort(),
      };
    }
    return this.groupsKnown;
  }
  private groupsKnown: SiteFigures['groups'] | null = null;

  /** Pages by their ids, in the order of their addresses. */
  pages(ids: readonly number[]): PageRef[] {
    return ids
      .flatMap((id) => {
        const address = this.addresses.get(id);
        return address === undefined ? [] : { id, address };
      })
      .sort((a, b) => (a.address < b.address ? -1 : 1));
  }
}

/** Brand words of a site: as stated, else the words shared by its name and URL. */
export function brandWordsOf({ brandWords: said, name, address }: Site): readonly string[] {
  return said.length > 0 ? said : brandWords(name, address);
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
