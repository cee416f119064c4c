import { inOrder, rowsWithin } from '../../core/lists/choose';
import { columnValues, type FiguresTable, type Side } from '../../core/lists/table';
import type { Series } from '../../core/history/history';
import { queryAttribute } from '../../store/figures/attributes';
import { grainsOf } from '../../store/figures/coverage';
import { hasPagelessRows, pagelessId } from '../../store/figures/layers';
import { pairFigures, type Pairs } from '../../store/figures/pairs';
import { queryTexts } from '../../store/figures/queryIds';
import { queryTraits } from '../../store/traits/traits';
import { brandTest } from '../site/brands';
import type { Engines } from '../site/engines';
import type { Findings } from '../pages/findings';
import { memoizeByFigures } from '../site/memoizeByFigures';
import { memoizeByName, type SiteContext } from '../site/siteContext';
import type { SiteFigures } from '../site/siteFigures';
import { wordsOfSite } from '../site/siteWords';
import type { Tell } from '../site/turns';
import { totalsOf } from '../figures/totals';
import { sumsOf } from './lineOf';
import type { Made, TableQuery } from './made';
import type { ListRequest, ListAnswer } from './listRequest';
import { pagesTable } from './pagesTable';
import { queriesTable, pairsTable } from './queryTables';

/** Pairs of a few spans are kept; on a large site each takes some ten megabytes. */
const MOST_PAIRS = 3;
/** Sites whose searches are kept. */
const MOST_TEXTS = 4;
/** Tables of a site that are kept. */
const MOST_TABLES = 6;

/** Answers lists of a site's pages, queries and pairs, and keeps what it added up for the next question. */
export class Lists {
  private readonly pairs = memoizeByFigures<Pairs>(MOST_PAIRS);
  private readonly texts = memoizeByFigures<ReadonlyMap<number, string>>(MOST_TEXTS);
  private readonly tables = memoizeByName<Made>(MOST_TABLES);

  constructor(
    private readonly engines: Engines,
    private readonly findings: Findings,
    private readonly tell: Tell = () => undefined,
  ) {}

  /** The lines that are wanted; null where the site has no figures. */
  list(context: SiteContext, wish: ListRequest): ListAnswer | null {
    const { db, site } = context;
    const figures = this.engines.figures(site);
    if (!figures) return null;
    const made = this.tableOf(context, figures, wish);
    const chosen = rowsWithin(made.table, {
      ranges: wish.ranges,
      wanted: made.wanted(wish),
    });
    const values = columnValues(made.table, wish.sort.column);
    const rows = inOrder(chosen, values, wish.sort.falling, { from: wish.from, to: wish.from + wish.limit });
    const totals = this.totalsOf(made, figures, wish);
    const grains = new Set(grainsOf(db, site.id).map(({ grain }) => grain));
    return {
      lines: rows.map((row) => made.line(row)),
      total: chosen.length,
      all: made.table.rows,
      sums: chosen.length === made.table.rows ? totals.listed : sumsOf(made.table, chosen, wish.spans),
      totals,
      lacks: {
        device: wish.device !== 0 && figures.seriesOf(wish.device).length === 0,
        queries: wish.device !== 0 && this.pairsOf(context, figures, wish).rows === 0,
      },
      groups: figures.groups.names,
      spans: wish.spans,
      has: {
        landing: grains.has('analytics_day'),
        searches: queryAttribute(db, site.id, 'searches').size > 0,
      },
    };
  }

  /** Kept by figures that outlive the table: an edit makes another table of the same ones. */
  private readonly totals = new WeakMap<Side, ListAnswer['totals']>();

  private totalsOf(
    { table }: Made,
    figures: SiteFigures,
    { spans, device }: ListRequest,
  ): ListAnswer['totals'] {
    const known = this.totals.get(table.now) ?? {
      listed: sumsOf(table, allRows(table), spans),
      site: totalsOf(figures, { spans, device }),
    };
    this.totals.set(table.now, known);
    return known;
  }

  /** The ids of the pages that a list of pages finds. */
  found(context: SiteContext, wish: ListRequest): number[] {
    const figures = this.engines.figures(context.site);
    if (!figures) return [];
    const made = this.tableOf(context, figures, wish);
    const rows = rowsWithin(made.table, { ranges: wish.ranges, wanted: made.wanted(wish) });
    return Array.from(rows, (row) => made.pageId(row));
  }

  /** Every pair of page and query over two spans. */
  pairsOf(
    context: SiteContext,
    figures: SiteFigures,
    { spans, device }: Pick<ListRequest, 'spans' | 'device'>,
  ): Pairs {
    const { db, site } = context;
    const { now, was } = spans;
    const name = `${device}/${now.firstDay}-${now.lastDay}/${was ? `${was.firstDay}-${was.lastDay}` : ''}`;
    return this.pairs(context, name, () =>
      pairFigures(
        db,
        this.seriesForQueries(context, figures, device),
        spans,
        device,
        figures.curve,
        (done, of) => this.tell({ siteId: site.id, what: 'Adding up the queries of each page', done, of }),
      ),
    );
  }

  /** The series of the pages, plus an empty one for query rows without a page. */
  private seriesForQueries(
    { db, site }: SiteContext,
    figures: SiteFigures,
    device: number,
  ): readonly Series[] {
    const series = figures.seriesOf(device);
    if (!hasPagelessRows(db, site.id)) return series;
    const none = { clicks: [], impressions: [], positionSum: [], positionWeight: [] };
    return [...series, { id: pagelessId(site.id), firstDay: figures.firstDay, ...none }];
  }

  /** The texts of all queries of a site. */
  textsOf(context: SiteContext): ReadonlyMap<number, string> {
    return this.texts(context, 'texts', () => queryTexts(context.db, context.site.id));
  }

  /** The table of a list, kept for as long as the context is. */
  private tableOf(context: SiteContext, figures: SiteFigures, { subject, spans, device }: ListRequest): Made {
    return this.tables(context, JSON.stringify([subject, spans, device]), () =>
      this.newTable(context, figures, { subject, spans, device }),
    );
  }

  private newTable(context: SiteContext, figures: SiteFigures, wish: TableQuery): Made {
    if (wish.subject === 'pages')
      return pagesTable(context, figures, wish, {
        pairs: this.pairsOf(context, figures, wish),
        findings: this.findings.of(context),
      });
    const { db, site } = context;
    const pairs = this.pairsOf(context, figures, wish);
    const texts = this.textsOf(context);
    const traits = queryTraits(db, site.id);
    const brands = brandTest(site, traits, texts);
    const searches = queryAttribute(db, site.id, 'searches');
    const { intents } = wordsOfSite(db, site);
    return wish.subject === 'queries'
      ? queriesTable({ context, figures, wish, pairs, texts, traits, brands, searches, intents })
      : pairsTable({ context, figures, wish, pairs, texts, traits, brands, searches, intents });
  }
}

const allRows = ({ rows }: FiguresTable): Uint32Array => Uint32Array.from({ length: rows }, (_, row) => row);
