import { pagePath } from '../../core/address/address';
import type { Column } from '../../core/lists/columns';
import { intentOf, type IntentWords } from '../../core/words/intent';
import type { ListLine } from '../../core/lists/line';
import { addedUp, type FiguresTable, type Side } from '../../core/lists/table';
import type { PageRef } from '../../core/model/change';
import type { QueryTraits } from '../../core/model/traits';
import type { Pairs } from '../../store/figures/pairs';
import { pageTraits } from '../../store/traits/traits';
import type { SiteContext } from '../site/siteContext';
import type { SiteFigures } from '../site/siteFigures';
import { lineOf } from './lineOf';
import { type Made, type TableQuery, holds, worthOf, changesByPage, perPairs } from './made';
import type { ListRequest } from './listRequest';

export type QueryParts = {
  readonly context: SiteContext;
  readonly figures: SiteFigures;
  readonly wish: TableQuery;
  readonly pairs: Pairs;
  readonly texts: ReadonlyMap<number, string>;
  readonly traits: ReadonlyMap<number, QueryTraits>;
  readonly brands: (query: number) => boolean;
  readonly searches: ReadonlyMap<number, string>;
  /** Words that give an intent away. */
  readonly intents: IntentWords;
};

/** The figures of each query on all pages together. */
type QueryFigures = {
  readonly ids: readonly number[];
  readonly pages: Float64Array;
  readonly now: Side;
  readonly was: Side;
};
const figuresOf = perPairs<QueryFigures>();
const pagesOf = perPairs<Float64Array>();

function queryFigures(pairs: Pairs): QueryFigures {
  const networkOf = new Map<number, number>();
  const into = new Int32Array(pairs.rows);
  const ids: number[] = [];
  for (let pair = 0; pair < pairs.rows; pair++) {
    const query = pairs.query[pair]!;
    let place = networkOf.get(query);
    if (place === undefined) {
      networkOf.set(query, (place = ids.length));
      ids.push(query);
    }
    into[pair] = place;
  }
  const pages = new Float64Array(ids.length);
  for (let pair = 0; pair < pairs.rows; pair++)
    if (pairs.page[pair]! > 0 && pairs.now.impressions[pair]! > 0) pages[into[pair]!]! += 1;
  const sum = (side: Side) => addedUp(side, into, ids.length);
  return { ids, pages, now: sum(pairs.now), was: sum(pairs.was) };
}

export function queriesTable(parts: QueryParts): Made {
  const { figures, wish, pairs } = parts;
  const { ids, pages, now, was } = figuresOf(pairs, () => queryFigures(pairs));
  const table: FiguresTable = {
    ...{ rows: ids.length, now, was: wish.spans.was && was },
    further: (column) => (column === 'pages' ? (row) => pages[row]! : queryColumn(parts, column, ids, now)),
  };
  const addresses = new Map(figures.allPages.map((page) => [page.id, page]));
  return {
    table,
    wanted: (wanted) => (row) =>
      (wanted.queryId === undefined || ids[row] === wanted.queryId) && queryWanted(parts, wanted, ids[row]!),
    pageId: () => -1,
    line: (row) => ({
      ...lineOf(table, row, wish.spans),
      ...{ page: null, title: null, group: null },
      ...queryPart(parts, ids[row]!, addresses),
    }),
  };
}

export function pairsTable(parts: QueryParts): Made {
  const { context, figures, wish, pairs } = parts;
  const { page: pageIds, query: ids } = pairs;
  const addresses = new Map(figures.allPages.map((page) => [page.id, page]));
  const groups = figures.groups.nameOf;
  const changes = changesByPage(context);
  const traits = pageTraits(context.db, context.site.id);
  const table: FiguresTable = {
    ...{ rows: pairs.rows, now: pairs.now, was: wish.spans.was && pairs.was },
    further: (column) => {
      if (column === 'pages') return (row) => pagesOf(pairs, () => pagesOfEach(pairs))[row]!;
      if (column === 'changes') return (row) => changes.get(pageIds[row]!) ?? 0;
      if (column === 'weight') return (row) => traits.get(pageIds[row]!)?.weight ?? NaN;
      return queryColumn(parts, column, ids, pairs.now);
    },
  };
  return {
    table,
    wanted: (wanted) => (row) =>
      (wanted.pageId === undefined || pageIds[row] === wanted.pageId) &&
      (wanted.queryId === undefined || ids[row] === wanted.queryId) &&
      (wanted.group === null || groups.get(pageIds[row]!) === wanted.group) &&
      queryWanted(parts, wanted, ids[row]!),
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

/** For each pair how many pages were shown for its query. */
function pagesOfEach({ rows, page, query, now }: Pairs): Float64Array {
  const pages = new Map<number, number>();
  for (let row = 0; row < rows; row++)
    if (page[row]! > 0 && now.impressions[row]! > 0)
      pages.set(query[row]!, (pages.get(query[row]!) ?? 0) + 1);
  return Float64Array.from(query, (id) => pages.get(id) ?? 0);
}

function queryColumn(
  { context: { site }, searches }: QueryParts,
  column: Column,
  ids: ArrayLike<number>,
  now: Side,
): ((row: number) => number) | null {
  if (column === 'worth') return worthOf(site, now);
  return column === 'searches' ? (row) => Number(searches.get(ids[row]!) ?? NaN) : null;
}

function queryWanted({ texts, traits, brands, intents }: QueryParts, wish: ListRequest, id: number): boolean {
  const text = texts.get(id) ?? '';
  if (!holds(text, wish)) return false;
  if (wish.brand !== null && brands(id) !== wish.brand) return false;
  return (
    wish.intent === null || (traits.get(id)?.intent ?? intentOf(text, brands(id), intents)) === wish.intent
  );
}

function queryPart(
  { texts, traits, brands, intents }: QueryParts,
  id: number,
  addresses: ReadonlyMap<number, PageRef>,
): Pick<ListLine, 'query' | 'brand' | 'intent' | 'target'> {
  const text = texts.get(id) ?? '';
  const said = traits.get(id);
  const target = said?.targetPageId ? addresses.get(said.targetPageId) : undefined;
  return {
    query: { id, text },
    brand: brands(id),
    intent: said?.intent ?? intentOf(text, brands(id), intents),
    target: target ? pagePath(target.address) : null,
  };
}
