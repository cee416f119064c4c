import { suggestedKind } from '../model/suggestedKind';
import { isoDay, type Day } from '../calendar/day';
import { readDate, type DateOrder } from './dates';
import { fingerprint } from './fingerprint';
import {
  CHANGE_KINDS,
  changeKindName,
  newChangeSchema,
  type NewChange,
  type NewChangeInput,
} from '../model/change';
import type { Metric } from '../measures/registry';
import { pagePath } from '../address/address';
import {
  LEDGER_FIELDS,
  SHEET_FIELDS,
  type LedgerField,
  type LedgerMapping,
  type SheetField,
} from './ledgerColumns';

/** A row of a sheet of changes as it is understood. */
export type LedgerRow = {
  readonly line: number;
  readonly change: NewChange;
  /** What tells the row from others, so that the same row in another file is known. */
  readonly key: string;
};

/** How rows are to be read. */
export type LedgerPlan = {
  readonly mapping: LedgerMapping;
  readonly dateOrder: DateOrder;
  readonly newestDay: Day;
  /** The types that somebody chose for what the sheet calls them, by its words in lower case. */
  readonly kinds?: Readonly<Record<string, string>> | undefined;
  /** The URL of a page of the site, from any way of writing it. Throws an Error with a sentence. */
  readonly address: (text: string) => string;
};

/** The change type that a sheet’s wording means: a usual one, or one of the site’s own. */
export function kindOf(text: string): string {
  const plain = text.trim().toLowerCase();
  if (plain === '') return 'other';
  const slug = plain.replace(/[^\p{L}\p{N}]+/gu, '-').replace(/^-|-$/g, '');
  if (Object.hasOwn(CHANGE_KINDS, slug) || KINDS_BY_NAME.has(plain)) return KINDS_BY_NAME.get(plain) ?? slug;
  return suggestedKind(plain) ?? plain.slice(0, 40);
}
/**
 * Types in a sheet that match no usual type, most frequent first: somebody has to say what they
 * mean.
 *
 * @example unsureKinds(['Title tag', 'Hero swap', 'Hero swap']) // [{ written: 'hero swap', rows: 2
 *   }]
 */
export function unsureKinds(
  written: readonly string[],
): { readonly written: string; readonly rows: number }[] {
  const rows = new Map<string, number>();
  for (const text of written) {
    const plain = plainKind(text);
    if (plain !== '' && !Object.hasOwn(CHANGE_KINDS, kindOf(plain)))
      rows.set(plain, (rows.get(plain) ?? 0) + 1);
  }
  return [...rows]
    .map(([one, n]) => ({ written: one, rows: n }))
    .sort((a, b) => b.rows - a.rows)
    .slice(0, MOST_UNSURE);
}
/** So many unknown types are asked about; a sheet with more has no type column. */
const MOST_UNSURE = 20;
const plainKind = (text: string) => text.trim().toLowerCase().slice(0, 40);

const KINDS_BY_NAME = new Map(Object.entries(CHANGE_KINDS).map(([kind, name]) => [name.toLowerCase(), kind]));

const METRIC_WORDS: readonly (readonly [RegExp, Metric])[] = [
  [/\bctr\b|click.?through/, 'ctr'],
  [/impression/, 'impressions'],
  [/position|rank|place/, 'position'],
  [/click|traffic|visit/, 'clicks'],
];

/**
 * Parses an expected result: a metric, up or down, by how much. Null without a metric; the words
 * are then kept in the note.
 *
 * @example expectationOf('CTR +25%') // { metric: 'ctr', direction: 'up', amount: 0.25 }
 */
export function expectationOf(
  text: string,
): { metric: Metric; direction: 'up' | 'down'; amount: number | null } | null {
  const plain = text.toLowerCase();
  const metric = METRIC_WORDS.find(([words]) => words.test(plain))?.[1];
  if (!metric) return null;
  const number = /(\d+(?:[.,]\d+)?)\s*(%|percent)?/.exec(plain);
  const value = number ? Number(number[1]!.replace(',', '.')) : null;
  // A number without a sign of percent is one of places, of which only positions have any.
  const amount =
    value === null || value === 0 || (metric === 'position') === (number![2] !== undefined)
      ? null
      : metric === 'position'
        ? value
        : value / 100;
  const down = /[-\u2212]\s*\d|\bdown\b|fewer|less|lower|fall|drop|worse/.test(plain);
  return { metric, direction: down ? 'down' : 'up', amount };
}

/** The pages that a cell names: divided by spaces, commas, semicolons or line breaks. */
function pagesIn(cell: string): string[] {
  return cell
    .split(/[\s;]+|,(?=\s|https?:|\/)/)
    .map((one) => one.replace(/,$/, '').trim())
    .filter(Boolean);
}

/** Reads one row. Gives the change, or a sentence saying why there is none. */
export function readLedgerRow(cells: readonly string[], line: number, plan: LedgerPlan): LedgerRow | string {
  const { mapping, dateOrder, newestDay } = plan;
  const cell = (field: LedgerField) => {
    const column = mapping[field];
    return column == null ? '' : (cells[column] ?? '').trim();
  };
  const day = readDate(cell('day'), dateOrder);
  if (typeof day === 'string') return day;
  const pages: string[] = [];
  for (const text of pagesIn(cell('page'))) {
    try {
      pages.push(plan.address(text));
    } catch (error) {
      return (error as Error).message;
    }
  }
  if (pages.length === 0) return 'The row names no page.';
  const written = cell('kind');
  const chosen = plan.kinds ?? {};
  const kind =
    written === ''
      ? (suggestedKind(cell('title')) ?? (cell('newText') && !cell('title') ? 'title-rewrite' : 'other'))
      : Object.hasOwn(chosen, plainKind(written))
        ? chosen[plainKind(written)]!
        : kindOf(written);
  const expected = cell('expected');
  const expectation = expected === '' ? null : expectationOf(expected);
  const link = cell('link');
  const isLink = /^https?:\/\//i.test(link);
  const note = [
    cell('note'),
    ...(expected !== '' && (!expectation || expectation.amount === null) ? [`Expected: ${expected}`] : []),
    ...(cell('result') === '' ? [] : [`Result: ${cell('result')}`]),
    ...(link === '' || isLink ? [] : [`Ticket: ${link}`]),
  ].filter(Boolean);
  const named = cell('title') || `${changeKindName(kind)} on ${pagePath(pages[0]!)}`;
  const input: NewChangeInput = {
    ...(Object.fromEntries(SHEET_FIELDS.map((field) => [field, cell(field)])) as Record<SheetField, string>),
    title: named.replace(/\s+/g, ' ').slice(0, 200),
    kind,
    day: isoDay(day),
    pages: [...new Set(pages)],
    person: cell('person').slice(0, 60),
    link: isLink ? link : null,
    note: note.join('\n'),
    tags: listIn(cell('tags')),
    queries: listIn(cell('queries')),
    expectation,
    planned: day > newestDay,
  };
  const checked = newChangeSchema.safeParse(input);
  if (!checked.success) return checked.error.issues[0]!.message;
  return { line, change: checked.data, key: keyOf(checked.data) };
}

function listIn(cell: string): string[] {
  return cell
    .split(/[\n;,]+/)
    .map((one) => one.trim())
    .filter(Boolean);
}

/** What a row says of the change itself; notes and results, which grow later, are left aside. */
function keyOf({ day, title, kind, pages, oldText, newText }: NewChange): string {
  const text = JSON.stringify([day, title, kind, [...pages].sort(), oldText, newText]);
  // Two halves make a clash of keys as good as impossible.
  const half = Math.ceil(text.length / 2);
  return `${text.length}-${fingerprint([text])}-${fingerprint([text.slice(half), text.slice(0, half)])}`;
}

/** A change that is to be logged, and the keys of the rows that it is made of. */
export type SheetChange = { readonly change: NewChange; readonly keys: readonly string[] };

/**
 * The changes of rows, in order. With `join`, rows of one day and wording become one change on
 * several pages, with the texts of each page if they differ.
 */
export function changesOfRows(rows: readonly LedgerRow[], join: boolean): SheetChange[] {
  if (!join) return rows.map(({ change, key }) => ({ change, keys: [key] }));
  const groups = new Map<string, LedgerRow[]>();
  for (const row of rows) {
    const { day, title, kind, person, link, expectation } = row.change;
    const name = JSON.stringify([day, title, kind, person, link, expectation]);
    groups.set(name, [...(groups.get(name) ?? []), row]);
  }
  return [...groups.values()].map((group) => ({ change: joined(group), keys: group.map(({ key }) => key) }));
}

function joined(group: readonly LedgerRow[]): NewChange {
  const [first] = group;
  const { change } = first!;
  if (group.length === 1) return change;
  const all = <K extends 'queries' | 'tags' | 'pages'>(field: K) => [
    ...new Set(group.flatMap((row) => row.change[field])),
  ];
  const same = group.every(
    (row) => row.change.oldText === change.oldText && row.change.newText === change.newText,
  );
  const notes = [...new Set(group.flatMap((row) => row.change.note ?? []))].join('\n');
  return {
    ...change,
    pages: all('pages'),
    queries: all('queries').slice(0, 200),
    tags: all('tags').slice(0, 20),
    note: notes === '' ? null : notes.slice(0, 5000),
    ...(same
      ? {}
      : {
          oldText: null,
          newText: null,
          parts: group.flatMap((row) =>
            row.change.pages.map((page) => ({
              ...{ kind: row.change.kind, page, oldText: row.change.oldText, newText: row.change.newText },
            })),
          ),
        }),
  };
}

/** Columns of a mapping that a script gives by name or index; a sentence if one doesn’t exist. */
export function ledgerMappingOf(
  names: Readonly<Record<string, string | number | null>>,
  head: readonly string[],
): LedgerMapping | string {
  const mapping: LedgerMapping = {};
  const plain = (text: string) => text.trim().toLowerCase();
  for (const field of LEDGER_FIELDS) {
    const wanted = names[field];
    if (wanted == null) continue;
    const column =
      typeof wanted === 'number' ? wanted : head.findIndex((name) => plain(name) === plain(wanted));
    if (column < 0 || column >= head.length) return `There is no column “${wanted}” for ${field}.`;
    mapping[field] = column;
  }
  return mapping;
}
