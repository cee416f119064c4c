import { LRUCache } from 'lru-cache';
import { pagePath } from '../core/address/address';
import { spanLength, type Span } from '../core/calendar/span';
import { inOrder, rowsWithin, type Range, type Sorting } from '../core/lists/choose';
import type { Column, ListSubject } from '../core/lists/columns';
import { intentOf, type Intent } from '../core/lists/intent';
import type { ListLine } from '../core/lists/line';
import { addedUp, columnValues, emptySide, type FiguresTable, type Side } from '../core/lists/table';
import { compareTotals, type Metrics } from '../core/measures/comparison';
import type { PageRef } from '../core/model/change';
import type { Site } from '../core/model/site';
import { isBrandQuery } from '../core/reasons/brand';
import { queryAttribute } from '../store/figures/attributes';
import { landingTotals } from '../store/figures/landing';
import { grainsOf } from '../store/figures/days';
import { pairFigures, sumIn, type ListSpans, type Pairs } from '../store/figures/pairs';
import { queryTexts } from '../store/figures/queryIds';
import { latestTitles } from '../store/evidence/snapshots';
import type { QueryTraits } from '../core/model/traits';
import { pageTraits, queryTraits } from '../store/traits/traits';
import type { Engines } from './engines';
import type { SiteContext } from './siteContext';
import { brandWordsOf, figuresStamp, type SiteFigures } from './siteFigures';

/** What is wanted of a list. Spans are whole; `limit` lines from place `from` on. */
export type ListWish = {
  readonly subject: ListSubject;
  readonly spans: ListSpans;
  /** The code of a device; 0 for all. */
  readonly device: number;
  /** Of pairs: those of one page, or of one query; of queries: that one. */
  readonly pageId?: number;
  readonly queryId?: number;
  /** Words that have to be in the text, and words that must not. */
  readonly words: readonly string[];
  readonly without: readonly string[];
  readonly brand: boolean | null;
  readonly intent: Intent | null;
  readonly group: string | null;
  readonly ranges: readonly (readonly [Column, Range])[];
  readonly sort: Sorting;
  readonly from: number;
  readonly limit: number;
};

export type ListAnswer = {
  readonly lines: readonly ListLine[];
  /** How many lines were found, and how many there would be without any filter. */
  readonly total: number;
  readonly all: number;
  /** All that was found, together. */
  readonly sums: Metrics;
  /** The names of the groups of pages. */
  readonly groups: readonly string[];
  readonly spans: ListSpans;
  /** Whether the site has landing-page figures, and searches a month. */
  readonly has: { readonly landing: boolean; readonly searches: boolean };
};

/** Pairs of a few spans are kept; on a large site each takes some ten megabytes. */
const MOST_PAIRS = 3;

type Kept = { readonly key: string; readonly pairs: Pairs };

/** Answers lists of a site's pages, queries and pairs, and keeps what it added up for the next question. */
export class Lists {
  private readonly pairs = new LRUCache<string, Kept>({ max: MOST_PAIRS });
  private readonly texts = new LRUCache<number, { key: string; texts: ReadonlyMap<number, string> }>({
    max: 4,
  });

  constructor(private readonly engines: Engines) {}

  /** The lines that are wanted; null where the site has no figures. */
  list(context: SiteContext, wish: ListWish): ListAnswer | null {
    const { db, site } = context;
    const figures = this.engines.figures(site);
    if (!figures) return null;
    const made = this.tableOf(context, figures, wish);
    const chosen = rowsWithin(made.table, {
      ranges: wish.ranges,
      wanted: (row) => made.wanted(row),
    });
    const values = columnValues(made.table, wish.sort.column);
    const rows = inOrder(chosen, values, wish.sort.falling, { from: wish.from, to: wish.from + wish.limit });
    const grains = new Set(grainsOf(db, site.id).map(({ grain }) => grain));
    return {
      lines: rows.map((row) => made.line(row)),
      total: chosen.length,
      all: made.table.rows,
      sums: sumsOf(made.table, chosen, wish.spans),
      groups: [
        ...new Set(
          groupNames(
            figures,
            figures.series.map(({ id }) => id),
          ).values(),
        ),
      ]
        .filter(Boolean)
        .sort(),
      spans: wish.spans,
      has: {
        landing: grains.has('analytics_day'),
        searches: queryAttribute(db, site.id, 'searches').size > 0,
      },
    };
  }

  /** The ids of the pages that a list of pages finds. */
  found(context: SiteContext, wish: ListWish): number[] {
    const figures = this.engines.figures(context.site);
    if (!figures) return [];
    const made = this.tableOf(context, figures, wish);
    const rows = rowsWithin(made.table, { ranges: wish.ranges, wanted: (row) => made.wanted(row) });
    return Array.from(rows, (row) => made.pageId(row));
  }

  /** Every pair of page and query over two spans. */
  pairsOf(
    context: SiteContext,
    figures: SiteFigures,
    { spans, device }: Pick<ListWish, 'spans' | 'device'>,
  ): Pairs {
    const { db, site } = context;
    const { now, was } = spans;
    const slot = `${site.id}/${device}/${now.firstDay}-${now.lastDay}/${was ? `${was.firstDay}-${was.lastDay}` : ''}`;
    const key = figuresStamp(db, site.id);
    const known = this.pairs.get(slot);
    if (known?.key === key) return known.pairs;
    const pairs = pairFigures(db, figures.seriesOf(device), spans, device, figures.curve);
    this.pairs.set(slot, { key, pairs });
    return pairs;
  }

  /** The texts of all queries of a site. */
  textsOf({ db, site }: SiteContext): ReadonlyMap<number, string> {
    const key = figuresStamp(db, site.id);
    const known = this.texts.get(site.id);
    if (known?.key === key) return known.texts;
    const texts = queryTexts(db, site.id);
    this.texts.set(site.id, { key, texts });
    return texts;
  }

  private tableOf(context: SiteContext, figures: SiteFigures, wish: ListWish): Made {
    if (wish.subject === 'pages') return this.pagesTable(context, figures, wish);
    const { db, site } = context;
    const pairs = this.pairsOf(context, figures, wish);
    const texts = this.textsOf(context);
    const traits = queryTraits(db, site.id);
    const brands = brandTest(site, traits, texts);
    const searches = queryAttribute(db, site.id, 'searches');
    return wish.subject === 'queries'
      ? queriesTable({ context, figures, wish, pairs, texts, traits, brands, searches })
      : pairsTable({ context, figures, wish, pairs, texts, traits, brands, searches });
  }

  private pagesTable(context: SiteContext, figures: SiteFigures, wish: ListWish): Made {
    const { db, site } = context;
    const pages = figures.pages(figures.series.map(({ id }) => id));
    const place = new Map(pages.map(({ id }, row) => [id, row]));
    const pairs = this.pairsOf(context, figures, wish);
    const sides = { now: emptySide(pages.length), was: emptySide(pages.length) };
    for (const series of figures.seriesOf(wish.device)) {
      const row = place.get(series.id);
      if (row === undefined) continue;
      for (const side of ['now', 'was'] as const) {
        const span = wish.spans[side];
        if (!span) continue;
        for (const name of ['clicks', 'impressions', 'positionSum', 'positionWeight'] as const)
          sides[side][name][row] = sumIn(series[name], series.firstDay, span);
        sides[side].expected[row] = pairs.showings.get(series.id)?.[side] ?? 0;
      }
    }
    const queries = new Float64Array(pages.length);
    for (let pair = 0; pair < pairs.rows; pair++) {
      const row = place.get(pairs.page[pair]!);
      if (row !== undefined && pairs.now.impressions[pair]! > 0) queries[row]! += 1;
    }
    const traits = pageTraits(db, site.id);
    const changes = changesByPage(context);
    const landing = landingTotals(
      db,
      grainsOf(db, site.id).some(({ grain }) => grain === 'analytics_day') ? pages.map(({ id }) => id) : [],
      wish.spans.now,
    );
    const column = (of: (page: PageRef) => number | null | undefined) =>
      Float64Array.from(pages, (page) => of(page) ?? NaN);
    const share = ({ sessions, engaged }: { sessions: number; engaged: number | null }) =>
      engaged !== null && sessions > 0 ? engaged / sessions : null;
    const further = once((name: Column): Float64Array | null => {
      switch (name) {
        case 'queries':
          return queries;
        case 'changes':
          return column(({ id }) => changes.get(id) ?? 0);
        case 'weight':
          return column(({ id }) => traits.get(id)?.weight);
        case 'sessions':
          return column(({ id }) => landing.get(id)?.sessions);
        case 'engagedShare':
          return column(({ id }) => {
            const one = landing.get(id);
            return one && share(one);
          });
        case 'conversions':
          return column(({ id }) => landing.get(id)?.conversions);
        case 'revenue':
          return column(({ id }) => landing.get(id)?.revenue);
        case 'worth':
          return worthOf(site, sides.now);
        default:
          return null;
      }
    });
    const groups = groupNames(
      figures,
      pages.map(({ id }) => id),
    );
    const titles = latestTitles(db, site.id);
    const table: FiguresTable = {
      rows: pages.length,
      now: sides.now,
      was: wish.spans.was && sides.was,
      further,
    };
    return {
      table,
      wanted: (row) =>
        holds(pagePath(pages[row]!.address), wish) &&
        (wish.group === null || groups.get(pages[row]!.id) === wish.group),
      pageId: (row) => pages[row]!.id,
      line: (row) => {
        const page = pages[row]!;
        return {
          ...lineOf(table, row, wish.spans),
          ...{ page, query: null, title: titles.get(page.id) ?? null, group: groups.get(page.id) ?? null },
          ...{ brand: null, intent: null, target: traits.get(page.id)?.target ?? null },
        };
      },
    };
  }
}

/** A table, which of its rows are wanted by words, and what stands in a line. */
type Made = {
  readonly table: FiguresTable;
  readonly wanted: (row: number) => boolean;
  readonly line: (row: number) => ListLine;
  /** The page of a row; -1 where it has none. */
  readonly pageId: (row: number) => number;
};

type QueryParts = {
  readonly context: SiteContext;
  readonly figures: SiteFigures;
  readonly wish: ListWish;
  readonly pairs: Pairs;
  readonly texts: ReadonlyMap<number, string>;
  readonly traits: ReadonlyMap<number, QueryTraits>;
  readonly brands: (query: number) => boolean;
  readonly searches: ReadonlyMap<number, string>;
};

function queriesTable(parts: QueryParts): Made {
  const { figures, wish, pairs } = parts;
  const placeOf = new Map<number, number>();
  const into = new Int32Array(pairs.rows);
  const ids: number[] = [];
  for (let pair = 0; pair < pairs.rows; pair++) {
    const query = pairs.query[pair]!;
    let place = placeOf.get(query);
    if (place === undefined) {
      placeOf.set(query, (place = ids.length));
      ids.push(query);
    }
    into[pair] = place;
  }
  const pages = new Float64Array(ids.length);
  for (let pair = 0; pair < pairs.rows; pair++)
    if (pairs.now.impressions[pair]! > 0) pages[into[pair]!]! += 1;
  const now = addedUp(pairs.now, into, ids.length);
  const was = wish.spans.was && addedUp(pairs.was, into, ids.length);
  const table: FiguresTable = {
    ...{ rows: ids.length, now, was },
    further: once((column) => (column === 'pages' ? pages : queryColumn(parts, column, ids, now))),
  };
  const addresses = new Map(figures.pages(figures.series.map(({ id }) => id)).map((page) => [page.id, page]));
  return {
    table,
    wanted: (row) =>
      (wish.queryId === undefined || ids[row] === wish.queryId) && queryWanted(parts, ids[row]!),
    pageId: () => -1,
    line: (row) => ({
      ...lineOf(table, row, wish.spans),
      ...{ page: null, title: null, group: null },
      ...queryPart(parts, ids[row]!, addresses),
    }),
  };
}

function pairsTable(parts: QueryParts): Made {
  const { context, figures, wish, pairs } = parts;
  const { page: pageIds, query: ids } = pairs;
  const addresses = new Map(figures.pages(figures.series.map(({ id }) => id)).map((page) => [page.id, page]));
  const groups = groupNames(figures, [...addresses.keys()]);
  const changes = changesByPage(context);
  const traits = pageTraits(context.db, context.site.id);
  const table: FiguresTable = {
    ...{ rows: pairs.rows, now: pairs.now, was: wish.spans.was && pairs.was },
    further: once((column) => {
      if (column === 'changes') return Float64Array.from(pageIds, (id) => changes.get(id) ?? 0);
      if (column === 'weight') return Float64Array.from(pageIds, (id) => traits.get(id)?.weight ?? NaN);
      return queryColumn(parts, column, ids, pairs.now);
    }),
  };
  return {
    table,
    wanted: (row) =>
      (wish.pageId === undefined || pageIds[row] === wish.pageId) &&
      (wish.queryId === undefined || ids[row] === wish.queryId) &&
      (wish.group === null || groups.get(pageIds[row]!) === wish.group) &&
      queryWanted(parts, ids[row]!),
    pageId: (row) => pageIds[row]!,
    line: (row) => {
      const page = addresses.get(pageIds[row]!) ?? null;
      return {
        ...lineOf(table, row, wish.spans),
        ...queryPart(parts, ids[row]!, addresses),
        ...{ page, title: null, group: page && (groups.get(page.id) ?? null) },
      };
    },
  };
}

function queryColumn(
  { context: { site }, searches }: QueryParts,
  column: Column,
  ids: ArrayLike<number>,
  now: Side,
): Float64Array | null {
  if (column === 'worth') return worthOf(site, now);
  if (column !== 'searches') return null;
  return Float64Array.from({ length: ids.length }, (_, row) => Number(searches.get(ids[row]!) ?? NaN));
}

function queryWanted({ wish, texts, traits, brands }: QueryParts, id: number): boolean {
  const text = texts.get(id) ?? '';
  if (!holds(text, wish)) return false;
  if (wish.brand !== null && brands(id) !== wish.brand) return false;
  return wish.intent === null || (traits.get(id)?.intent ?? intentOf(text, brands(id))) === wish.intent;
}

function queryPart(
  { texts, traits, brands }: QueryParts,
  id: number,
  addresses: ReadonlyMap<number, PageRef>,
): Pick<ListLine, 'query' | 'brand' | 'intent' | 'target'> {
  const text = texts.get(id) ?? '';
  const said = traits.get(id);
  const target = said?.targetPageId ? addresses.get(said.targetPageId) : undefined;
  return {
    query: { id, text },
    brand: brands(id),
    intent: said?.intent ?? intentOf(text, brands(id)),
    target: target ? pagePath(target.address) : null,
  };
}

function lineOf(table: FiguresTable, row: number, spans: ListSpans): Pick<ListLine, 'metrics' | 'further'> {
  const totals = (side: Side, span: Span) => ({
    days: spanLength(span),
    clicks: side.clicks[row]!,
    impressions: side.impressions[row]!,
    positionSum: side.positionSum[row]!,
    positionWeight: side.positionWeight[row]!,
  });
  const { now, was } = table;
  const known = (value: number) => (value > 0 ? value : null);
  const further: Partial<Record<Column, number | null>> = {};
  const [expected, impressions] = [now.expected[row]!, now.impressions[row]!];
  further.expectedCtr = impressions > 0 && expected > 0 ? expected / impressions : null;
  for (const column of FURTHER) {
    const values = table.further(column);
    if (values) further[column] = Number.isNaN(values[row]!) ? null : values[row]!;
  }
  return {
    metrics: compareTotals(was && spans.was ? totals(was, spans.was) : null, totals(now, spans.now), {
      before: was && known(was.expected[row]!),
      after: known(now.expected[row]!),
    }),
    further,
  };
}

const FURTHER = [
  ...(['queries', 'pages', 'searches', 'changes', 'weight'] as const),
  ...(['sessions', 'engagedShare', 'conversions', 'revenue', 'worth'] as const),
] satisfies Column[];

/** The figures of some rows together. */
function sumsOf({ now, was }: FiguresTable, rows: Uint32Array, spans: ListSpans): Metrics {
  const sum = (side: Side, span: Span) => {
    const totals = {
      days: spanLength(span),
      clicks: 0,
      impressions: 0,
      positionSum: 0,
      positionWeight: 0,
      expected: 0,
    };
    for (const row of rows)
      for (const name of ['clicks', 'impressions', 'positionSum', 'positionWeight', 'expected'] as const)
        totals[name] += side[name][row]!;
    return totals;
  };
  const [before, after] = [was && spans.was && sum(was, spans.was), sum(now, spans.now)];
  return compareTotals(before, after, { before: before && before.expected, after: after.expected });
}

/** The same by column, each worked out once for all lines. */
function once(of: FiguresTable['further']): FiguresTable['further'] {
  const known = new Map<Column, Float64Array | null>();
  return (column) => {
    if (!known.has(column)) known.set(column, of(column));
    return known.get(column)!;
  };
}

/** Whether a text has all of the wanted words in it, and none of the others. */
function holds(text: string, { words, without }: Pick<ListWish, 'words' | 'without'>): boolean {
  if (words.length === 0 && without.length === 0) return true;
  const lower = text.toLowerCase();
  return words.every((word) => lower.includes(word)) && !without.some((word) => lower.includes(word));
}

/** Whether a query is for the site itself: as it was said, else by the words of the brand. */
export function brandTest(
  site: Site,
  traits: ReadonlyMap<number, QueryTraits>,
  texts: ReadonlyMap<number, string>,
): (query: number) => boolean {
  const words = brandWordsOf(site);
  const known = new Map<number, boolean>();
  return (id) => {
    let brand = known.get(id);
    if (brand === undefined) {
      brand = traits.get(id)?.brand ?? isBrandQuery(texts.get(id) ?? '', words);
      known.set(id, brand);
    }
    return brand;
  };
}

function worthOf({ worthOfClick }: Site, now: Side): Float64Array | null {
  return worthOfClick === null ? null : now.clicks.map((clicks) => clicks * worthOfClick);
}

function changesByPage({ made }: SiteContext): Map<number, number> {
  const counts = new Map<number, number>();
  for (const { pages } of made) for (const { id } of pages) counts.set(id, (counts.get(id) ?? 0) + 1);
  return counts;
}

function groupNames(figures: SiteFigures, ids: readonly number[]): Map<number, string> {
  const { of, names } = figures.groupsOf(ids);
  return new Map(ids.map((id, i) => [id, names[of[i]!] ?? '']));
}
