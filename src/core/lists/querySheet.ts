/* A sheet: the queries of chosen pages in one dated table, page by page, the most seen first. */

import type { SaidWhere } from '../words/termsOnPage';

/** A line of a sheet, as it is kept. */
export type SheetLine = {
  readonly page: string;
  readonly query: string;
  readonly clicks: number;
  readonly impressions: number;
  readonly ctr: number | null;
  readonly position: number | null;
  readonly clicksDifference: number | null;
  readonly impressionsDifference: number | null;
  readonly placesGained: number | null;
  /** Searches a month. */
  readonly searches: number | null;
  /** Where the page says it; null where it was not fetched. */
  readonly said: SaidWhere | null;
};

type Cell = string | number | null;

const HEAD = [
  ...['page', 'query', 'impressions', 'impressions difference', 'clicks', 'clicks difference', 'CTR'],
  ...['position', 'places gained', 'searches a month', 'said on the page', 'worked in'],
];

const SINCE = ['impressions then', 'clicks then', 'position then', 'said then'];

const SAID: Readonly<Record<SaidWhere, string>> = {
  title: 'title',
  h1: 'H1',
  heading: 'heading',
  text: 'text',
  parts: 'in parts',
  nowhere: 'no',
};

/**
 * A sheet as a table to be saved, with an empty column for what was worked in. Made anew, it has what an earlier one said beside it; lines
 * that only the earlier one had come last on their page.
 * @example sheetTable([line]).head.at(-1) // "worked in"
 */
export function sheetTable(
  lines: readonly SheetLine[],
  earlier: readonly SheetLine[] | null = null,
): { head: string[]; rows: Cell[][] } {
  const keyOf = ({ page, query }: SheetLine) => `${page} ${query}`;
  const then = new Map((earlier ?? []).map((line) => [keyOf(line), line]));
  const now = new Set(lines.map(keyOf));
  const gone = (earlier ?? []).filter((line) => !now.has(keyOf(line)));
  const rows: Cell[][] = [];
  const pages = [...new Set([...lines, ...gone].map(({ page }) => page))];
  for (const page of pages) {
    for (const line of lines.filter((one) => one.page === page))
      rows.push(rowOf(line, then.get(keyOf(line)), earlier !== null));
    for (const line of gone.filter((one) => one.page === page))
      rows.push([
        ...[
          page,
          line.query,
          0,
          -line.impressions,
          0,
          -line.clicks,
          null,
          null,
          null,
          line.searches,
          null,
          null,
        ],
        ...sinceOf(line),
      ]);
  }
  return { head: earlier === null ? HEAD : [...HEAD, ...SINCE], rows };
}

function rowOf(line: SheetLine, then: SheetLine | undefined, compared: boolean): Cell[] {
  return [
    ...[line.page, line.query, line.impressions, line.impressionsDifference, line.clicks],
    ...[line.clicksDifference, line.ctr, line.position, line.placesGained, line.searches],
    ...[line.said === null ? null : SAID[line.said], null],
    ...(compared ? sinceOf(then) : []),
  ];
}

function sinceOf(then: SheetLine | undefined): Cell[] {
  if (!then) return [0, 0, null, null];
  return [then.impressions, then.clicks, then.position, then.said === null ? null : SAID[then.said]];
}
