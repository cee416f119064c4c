/* Results from pasted text: rows of a sheet, or a title, an address and a description one below the other. */

import Papa from 'papaparse';
import { RESULT_EXTRAS, RESULT_KINDS, type Result, type ResultExtra, type ResultKind } from './resultPage';

/** A result as it was read, before it is looked through; what is missing is empty. */
export type ReadResult = Omit<Result, 'rank'> & { readonly rank: number };

/** What was read of a text, or a sentence that says why nothing was. */
export type ReadResults =
  | { readonly results: readonly ReadResult[]; readonly problem: null }
  | { readonly results: readonly []; readonly problem: string };

/** Names of columns, without case, spaces and signs. */
const COLUMNS: Readonly<
  Record<'rank' | 'address' | 'title' | 'description' | 'kind' | 'dateShown' | 'extras', readonly string[]>
> = {
  rank: ['rank', 'position', 'pos', 'place', 'no', 'nr'],
  address: ['address', 'url', 'link', 'page', 'adresse'],
  title: ['title', 'heading', 'headline', 'titel', 'titre', 'titulo', 'titolo'],
  description: ['description', 'snippet', 'text', 'beschreibung', 'metadescription'],
  kind: ['kind', 'type', 'art'],
  dateShown: ['date', 'dateshown', 'datum'],
  extras: ['extras', 'features', 'carries'],
};
type ColumnName = keyof typeof COLUMNS;

const ADDRESS = /^(?:https?:\/\/)?(?:[\p{L}\p{N}-]+\.)+[\p{L}]{2,}(?::\d+)?(?:[/?#›»]\S*|\s[›»/].*)?$/iu;
/** More text is no result page that anybody pasted. */
export const MOST_PASTED = 200_000;

/**
 * Reads results from pasted text. Rows are told by tabs or by a head that names their columns; otherwise each result begins with its title or its
 * address, its description follows.
 */
export function resultsFromText(text: string): ReadResults {
  if (text.length > MOST_PASTED)
    return none('That is more text than a result page has; paste only the results.');
  const lines = text.replace(/\r\n?/g, '\n').trim();
  if (lines === '') return none('There is nothing in it.');
  return fromRows(lines) ?? fromBlocks(lines);
}

const none = (problem: string): ReadResults => ({ results: [], problem });

function fromRows(text: string): ReadResults | null {
  const first = text.split('\n', 1)[0]!;
  const named = (cells: readonly string[]) => columnsNamed(cells);
  for (const delimiter of ['\t', ';', ',']) {
    if (!first.includes(delimiter)) continue;
    const { data } = Papa.parse<string[]>(text, { delimiter, skipEmptyLines: 'greedy' });
    const head = named(data[0] ?? []);
    if (head.has('title') && (head.has('address') || head.has('rank'))) return fromTable(data.slice(1), head);
    if (delimiter === '\t') {
      const guessed = columnsGuessed(data);
      if (guessed) return fromTable(data, guessed);
    }
  }
  return null;
}

/** Results from the rows of a sheet, the first of which names the columns; null where it names none. */
export function resultsFromSheet(rows: readonly (readonly unknown[])[]): ReadResults {
  const cells = rows.map((row) =>
    row.map((cell) => (cell === null || cell === undefined ? '' : String(cell))),
  );
  const head = columnsNamed(cells[0] ?? []);
  if (!head.has('title') || !head.has('address'))
    return none(
      'The first row has to name the columns: title and address at least; rank, description, kind and extras where there are any.',
    );
  return fromTable(cells.slice(1), head);
}

function columnsNamed(cells: readonly string[]): Map<ColumnName, number> {
  const found = new Map<ColumnName, number>();
  cells.forEach((cell, at) => {
    const plain = cell.toLowerCase().replace(/[^\p{L}\p{N}]/gu, '');
    for (const name of Object.keys(COLUMNS) as ColumnName[])
      if (!found.has(name) && COLUMNS[name].includes(plain)) found.set(name, at);
  });
  return found;
}

/** Which column is which by what stands in it: addresses, whole numbers that rise, short texts and long ones. */
function columnsGuessed(rows: readonly (readonly string[])[]): Map<ColumnName, number> | null {
  const width = Math.max(...rows.map((row) => row.length));
  const share = (at: number, test: (cell: string) => boolean) =>
    rows.filter((row) => test(row[at]?.trim() ?? '')).length / rows.length;
  const columns = Array.from({ length: width }, (_, at) => at);
  const address = columns.find((at) => share(at, (cell) => ADDRESS.test(cell)) > 0.7);
  if (address === undefined) return null;
  const rank = columns.find((at) => share(at, (cell) => /^\d{1,3}\.?$/.test(cell)) > 0.9);
  const length = (at: number) => rows.reduce((sum, row) => sum + (row[at]?.length ?? 0), 0) / rows.length;
  const texts = columns.filter((at) => at !== address && at !== rank && length(at) > 3);
  const [title, description] =
    texts.slice(0, 2).length === 2 && length(texts[0]!) > length(texts[1]!) ? [texts[1], texts[0]] : texts;
  if (title === undefined) return null;
  return new Map<ColumnName, number>([
    ...[['address', address] as const, ['title', title] as const],
    ...(rank === undefined ? [] : [['rank', rank] as const]),
    ...(description === undefined ? [] : [['description', description] as const]),
  ]);
}

function fromTable(
  rows: readonly (readonly string[])[],
  columns: ReadonlyMap<ColumnName, number>,
): ReadResults {
  const results = rows.flatMap((row, i): ReadResult[] => {
    const cell = (name: ColumnName) => (columns.has(name) ? (row[columns.get(name)!]?.trim() ?? '') : '');
    const title = oneLine(cell('title'));
    if (title === '' && cell('address') === '') return [];
    const kind = cell('kind').toLowerCase();
    return [
      {
        rank: Number.parseInt(cell('rank'), 10) || i + 1,
        ...{ title, address: withScheme(cell('address')), description: oneLine(cell('description')) || null },
        kind: (RESULT_KINDS as readonly string[]).includes(kind) ? (kind as ResultKind) : null,
        dateShown: cell('dateShown') || null,
        extras: cell('extras')
          .toLowerCase()
          .split(/[,;+ ]+/)
          .filter((one): one is ResultExtra => (RESULT_EXTRAS as readonly string[]).includes(one)),
      },
    ];
  });
  return results.length > 0
    ? { results, problem: null }
    : none('The rows hold neither titles nor addresses.');
}

const oneLine = (text: string) => text.replace(/\s+/g, ' ').trim();

function withScheme(text: string): string {
  // Shown addresses are often written as a trail: “site.example › guides › wax”.
  const plain = text
    .replace(/\s*[›»]\s*/g, '/')
    .replace(/\s.*$/, '')
    .replace(/[…]+$/, '');
  return plain === '' || /^https?:\/\//i.test(plain) ? plain : `https://${plain}`;
}

function fromBlocks(text: string): ReadResults {
  const lines = text.split('\n').map((line) => line.trim());
  const isAddress = (line: string) => ADDRESS.test(line);
  const places = lines.flatMap((line, at) => (isAddress(line) ? [at] : []));
  if (places.length === 0)
    return none(
      'No line in it is an address, so it cannot be told where a result begins. Each result needs its title and its address, or the rows of a sheet.',
    );
  // The first line says what comes first: a title, or its address.
  const titleFirst = lines.slice(0, places[0]).some((line) => line !== '');
  const results = places.map((at, i): ReadResult => {
    const until = places[i + 1] ?? lines.length;
    const before = lines.slice(i === 0 ? 0 : places[i - 1]! + 1, at).filter(Boolean);
    const after = lines.slice(at + 1, until).filter(Boolean);
    const own = titleFirst ? after.slice(0, i + 1 < places.length ? -1 : undefined) : after.slice(1);
    const title = (titleFirst ? before.at(-1) : after[0]) ?? '';
    return {
      ...{ rank: i + 1, title: title.replace(/^\d{1,3}[.)]\s+/, ''), address: withScheme(lines[at]!) },
      ...{ description: oneLine(own.join(' ')) || null, kind: null, dateShown: null, extras: [] },
    };
  });
  return { results, problem: null };
}
