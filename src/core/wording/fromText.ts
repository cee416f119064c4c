/* Results from pasted text: rows of a sheet, or a title, an URL and a description, one per line. */

import { parseJson } from '../parseJson';
import Papa from 'papaparse';
import {
  dateBefore,
  isAdMark,
  isSiteName,
  metaOf,
  sectionOf,
  withoutAdMark,
  type Meta,
  type Section,
} from './pastedLines';
import { RESULT_EXTRAS, RESULT_KINDS, type Result, type ResultExtra, type ResultKind } from './resultPage';

/** A result as it was read, before it is looked through; what is missing is empty. */
export type ReadResult = Omit<Result, 'rank'> & { readonly rank: number };

/** What was read of a text, or a sentence that says why nothing was. */
export type ReadResults =
  | {
      readonly results: readonly ReadResult[];
      /** Questions people ask and related queries, where the text has them. */
      readonly asked?: readonly string[];
      readonly related?: readonly string[];
      readonly problem: null;
    }
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
 * Reads results from pasted text. Rows are recognised by tabs or a head that names their columns;
 * otherwise a result begins with its title or URL, and its description follows.
 */
export function resultsFromText(text: string): ReadResults {
  if (text.length > MOST_PASTED)
    return none('That is more text than a result page has; paste only the results.');
  const lines = text.replace(/\r\n?/g, '\n').trim();
  if (lines === '') return none('There is nothing in it.');
  return fromJson(lines) ?? fromRows(lines) ?? fromBlocks(lines);
}

const none = (problem: string): ReadResults => ({ results: [], problem });

/**
 * Results from JSON: a list of objects, or an object with one as `results` or `items`; null if
 * neither.
 */
function fromJson(text: string): ReadResults | null {
  if (!/^[[{]/.test(text)) return null;
  let parsed: unknown;
  try {
    parsed = parseJson(text);
  } catch {
    return none('This begins as JSON and cannot be read as such: it may be cut off.');
  }
  const held = parsed as { results?: unknown; items?: unknown };
  const list = Array.isArray(parsed) ? parsed : (held.results ?? held.items);
  if (!Array.isArray(list)) return none('The JSON holds no list of results.');
  const rows = list.filter((one): one is Record<string, unknown> => typeof one === 'object' && one !== null);
  const names = [...new Set(rows.flatMap((row) => Object.keys(row)))].slice(0, 50);
  return resultsFromSheet([names, ...rows.map((row) => names.map((name) => cellText(row[name])))]);
}

const cellText = (value: unknown): string =>
  Array.isArray(value) ? value.join(' ') : typeof value === 'object' ? '' : String(value ?? '');

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

/** Results from the rows of a sheet; null if its first row doesn’t name the columns. */
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

/** Guesses columns from their content: URLs, rising integers, short and long texts. */
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
  const { lines, asked, related } = resultLines(text);
  const places = lines.flatMap(({ isAddress }, at) => (isAddress ? [at] : []));
  if (places.length === 0)
    return none(
      'No line in it is an address, so it cannot be told where a result begins. Each result needs its title and its address, or the rows of a sheet.',
    );
  // The first line says what comes first: a title, or its address.
  const titleFirst = places[0]! > 0;
  const found = places.map((at, i) => {
    const until = places[i + 1] ?? lines.length;
    const before = lines.slice(i === 0 ? 0 : places[i - 1]! + 1, at).map((line) => line.text);
    const after = lines.slice(at + 1, until).map((line) => line.text);
    const own = titleFirst ? after.slice(0, i + 1 < places.length ? -1 : undefined) : after.slice(1);
    const title = (titleFirst ? before.at(-1) : after[0]) ?? '';
    const { date, rest } = dateBefore(oneLine(own.join(' ')));
    const { ad, meta, text: address } = lines[at]!;
    return {
      ad,
      result: {
        ...{ title: title.replace(/^\d{1,3}[.)]\s+/, ''), address: withScheme(address) },
        ...{ description: rest || null, kind: null },
        dateShown: meta.map((one) => one.date).find((one) => one !== null) ?? date,
        extras: [...new Set(meta.flatMap(({ extras }) => extras))],
      },
    };
  });
  const results = found.flatMap(({ ad, result }) => (ad ? [] : [result]));
  if (results.length === 0) return none('All results in it are ads.');
  return {
    results: results.map((result, i) => ({ ...result, rank: i + 1 })),
    ...{ asked, related, problem: null },
  };
}

type Line = {
  readonly text: string;
  readonly isAddress: boolean;
  /** Of a URL: whether it belongs to an ad, and lines of notes about its result. */
  readonly ad: boolean;
  readonly meta: Meta[];
};

/**
 * Lines of results: ads, site names, ratings, prices and dates absorbed, other sections set apart.
 */
function resultLines(text: string) {
  const [asked, related]: [string[], string[]] = [[], []];
  const all = text
    .split('\n')
    .map((line) => line.trim())
    .filter(Boolean);
  const isAddress = (line: string | undefined) =>
    line !== undefined && ADDRESS.test(withoutAdMark(line).text);
  const lines: Line[] = [];
  let section: Section = 'results';
  let ad = false;
  let early: Meta[] = [];
  all.forEach((line, i) => {
    const begins = sectionOf(line);
    if (begins) {
      section = begins;
      return;
    }
    // A title or an address ends the questions and the related queries.
    if (section !== 'results' && (isAddress(line) || isAddress(all[i + 1]) || isAddress(all[i + 2])))
      if (!(section === 'asked' && /[?？]$/.test(line))) section = 'results';
    if (section !== 'results') {
      if (section === 'asked' && /[?？]$/.test(line)) asked.push(line);
      if (section === 'related') related.push(line);
      return;
    }
    if (isAdMark(line)) {
      ad = true;
      return;
    }
    const marked = withoutAdMark(line);
    if (marked.ad) ad = true;
    if (ADDRESS.test(marked.text)) {
      lines.push({ text: marked.text, isAddress: true, ad, meta: early });
      [ad, early] = [false, []];
      return;
    }
    const meta = metaOf(marked.text);
    const last = lines.findLast((one) => one.isAddress);
    if (meta) {
      if (last) last.meta.push(meta);
      else early.push(meta);
      return;
    }
    const near = [all[i + 1], all[i - 1]].find((one) => isAddress(one));
    if (near && isSiteName(marked.text, withoutAdMark(near).text)) return;
    lines.push({ text: marked.text, isAddress: false, ad: false, meta: [] });
  });
  return { lines, asked: asked.slice(0, 50), related: related.slice(0, 50) };
}
