import { GONE, renumbered, type Numbered, type Renumber } from '../../core/archive/numbering';
import { figuresHead, figuresLines, textCell, type FiguresNames } from '../../core/archive/figuresCsv';
import { isoDay, type Day } from '../../core/calendar/day';
import { GRAIN_KEYS, GRAINS, type Grain } from '../../core/facts/grains';
import { columnsUsedAgain, unpackPiece } from '../../core/facts/pack';
import { prepared, type Db } from '../database';
import { baseDay } from '../figures/layers';
import { ARCHIVED, columnsOf, keyColumns, type ArchivedTable, type ColumnForm } from './tables';
import { getTableName } from 'drizzle-orm';

/** A file of an archive: its name, and its text a piece at a time with the number of rows in each. */
export type ArchiveFile = {
  readonly name: string;
  readonly pieces: Iterable<{ readonly text: string; readonly rows: number }>;
};

/** Characters that are handed on at once. */
const PIECE = 128 * 1024;

/**
 * The files of a site's archive, each made while it is read. What is read has to stay the same meanwhile: the caller holds a
 * transaction.
 */
export function* archiveFiles(db: Db, siteId: number): Generator<ArchiveFile> {
  const numbers = new Numbering(db, siteId);
  const names = {
    query: cellsOf(db, 'query'),
    country: cellsOf(db, 'label'),
    address: cellsOf(db, 'address'),
  };
  for (const table of ARCHIVED)
    yield { name: table.file, pieces: joined(jsonLines(rowsOf(db, siteId, table, numbers.of))) };
  for (const { id, grain, folded } of importsWithFigures(db, siteId)) {
    const number = String(numbers.of('import', id)).padStart(5, '0');
    yield {
      name: `figures/${number}-${grain}.csv`,
      pieces: joined(figureLines(db, { id, grain, folded }, numbers.of, names)),
    };
  }
}

/** How many rows a site's archive will have, figures and all. */
export function archiveRows(db: Db, siteId: number): number {
  const figures = prepared<[number], number>(
    db,
    `SELECT coalesce(sum(f.rows), 0) FROM address a JOIN figures f ON f.address_id = a.id WHERE a.site_id = ?`,
  )
    .pluck()
    .get(siteId)!;
  return ARCHIVED.reduce(
    (sum, { table, of, only }) =>
      sum +
      db.$client
        .prepare<[number], number>(
          `SELECT count(*) FROM ${quoted(getTableName(table))} t WHERE ${belongs({ table, of, only })}`,
        )
        .pluck()
        .get(siteId)!,
    figures,
  );
}

type Line = { readonly text: string; readonly rows: number };

function* joined(lines: Iterable<Line>): Generator<Line> {
  let text = '';
  let rows = 0;
  for (const line of lines) {
    text += line.text;
    rows += line.rows;
    if (text.length < PIECE) continue;
    yield { text, rows };
    text = '';
    rows = 0;
  }
  yield { text, rows };
}

/** A JSON list with a row a line. */
function* jsonLines(rows: Iterable<Readonly<Record<string, unknown>>>): Generator<Line> {
  let before = '[\n';
  for (const row of rows) {
    yield { text: before + JSON.stringify(row), rows: 1 };
    before = ',\n';
  }
  yield { text: before === '[\n' ? '[]\n' : '\n]\n', rows: 0 };
}

const quoted = (name: string) => `"${name}"`;

/** By which tables rows belong to a site that do not name it themselves. */
const HOLDER: Readonly<Partial<Record<Numbered, string>>> = Object.fromEntries(
  ARCHIVED.flatMap(({ numbers, table }) => (numbers ? [[numbers, getTableName(table)]] : [])),
);

/** The condition by which a row of a table (`t`) belongs to a site, with what belongs to imports that are not over if wished. */
export function belongs(
  { table, of: [column, kind], only }: Pick<ArchivedTable, 'table' | 'of' | 'only'>,
  unfinished = false,
): string {
  const { name } = (table as unknown as Record<string, { name: string }>)[column]!;
  const holder = HOLDER[kind]!;
  // Imports that are not over are not in an archive, and nothing of them.
  const over = kind === 'import' && !unfinished ? " AND state IN ('done', 'undone', 'failed')" : '';
  const own =
    kind === 'site'
      ? `t.${name} = ?`
      : `t.${name} IN (SELECT id FROM ${quoted(holder)} WHERE site_id = ?${over})`;
  return only ? `${own} AND ${only}` : own;
}

function* rowsOf(
  db: Db,
  siteId: number,
  table: ArchivedTable,
  renumber: Renumber,
): Generator<Record<string, unknown>> {
  const columns = columnsOf(table);
  const rows = db.$client
    .prepare<[number], unknown[]>(
      `SELECT ${columns.map(({ name }) => `t.${quoted(name)}`).join(', ')} FROM ${quoted(getTableName(table.table))} t
       WHERE ${belongs(table)} ORDER BY ${keyColumns(table)
         .map((name) => `t.${quoted(name)}`)
         .join(', ')}`,
    )
    .raw()
    .iterate(siteId);
  for (const row of rows) {
    const written = rowWritten(row, columns, table, renumber);
    if (written) yield written;
  }
}

/** A row as it is written; null where something is gone that it cannot be without. */
function rowWritten(
  row: readonly unknown[],
  columns: readonly ColumnForm[],
  table: ArchivedTable,
  renumber: Renumber,
): Record<string, unknown> | null {
  const written: Record<string, unknown> = {};
  for (const [i, form] of columns.entries()) {
    const value = cellWritten(row[i], form, table, renumber);
    if (value === null && form.column.notNull) return null;
    written[form.key] = value;
  }
  return written;
}

function cellWritten(
  value: unknown,
  { key, column, isDay }: ColumnForm,
  table: ArchivedTable,
  renumber: Renumber,
): unknown {
  if (table.stays && Object.hasOwn(table.stays, key)) return table.stays[key];
  if (value === null) return null;
  const named = namedBy(table, key);
  if (named) return renumber(named, value as number);
  const json = table.json?.[key];
  if (json) return renumbered(JSON.parse(value as string), json.numbers ?? [], renumber);
  const inText = table.texts?.[key];
  if (inText) return inText(value as string, renumber);
  if (isDay) return isoDay(value as Day);
  return column.dataType === 'boolean' ? value === 1 : value;
}

/** What the number in a column is of; undefined where it is no number of a thing. */
export function namedBy({ numbers, of, names }: ArchivedTable, key: string): Numbered | undefined {
  if (key === 'id') return numbers;
  return key === of[0] ? of[1] : names?.[key];
}

/** The numbers that the things of a site have in its archive. */
class Numbering {
  private readonly known = new Map<Numbered, ReadonlyMap<number, number>>();

  constructor(
    private readonly db: Db,
    private readonly siteId: number,
  ) {}

  readonly of: Renumber = (kind, number) => this.numbers(kind).get(number) ?? null;

  private numbers(kind: Numbered): ReadonlyMap<number, number> {
    const known = this.known.get(kind) ?? new Map(this.ids(kind).map((id, i) => [id, i + 1]));
    this.known.set(kind, known);
    return known;
  }

  private ids(kind: Numbered): number[] {
    const { db, siteId } = this;
    if (kind === 'site') return [siteId];
    if (kind === 'layer')
      return prepared<[number], number>(
        db,
        `SELECT DISTINCT layer FROM import WHERE site_id = ? AND layer IS NOT NULL AND state IN ('done', 'undone', 'failed') ORDER BY layer`,
      )
        .pluck()
        .all(siteId);
    const table = ARCHIVED.find(({ numbers }) => numbers === kind)!;
    return db.$client
      .prepare<[number], number>(
        `SELECT t.id FROM ${quoted(getTableName(table.table))} t WHERE ${belongs(table)} ORDER BY t.id`,
      )
      .pluck()
      .all(siteId);
  }
}

type WithFigures = { readonly id: number; readonly grain: Grain; readonly folded: boolean };

function importsWithFigures(db: Db, siteId: number): WithFigures[] {
  const rows = prepared<[number], [number, number, number]>(
    db,
    `SELECT DISTINCT i.id, f.grain, i.folded_at IS NOT NULL FROM import i JOIN figures f ON f.import_id = i.id
     WHERE i.site_id = ? AND i.state IN ('done', 'undone') ORDER BY i.id, f.grain`,
  )
    .raw()
    .all(siteId);
  return rows.map(([id, code, folded]) => ({
    id,
    grain: GRAIN_KEYS.find((grain) => GRAINS[grain].code === code)!,
    folded: folded === 1,
  }));
}

function* figureLines(
  db: Db,
  { id, grain, folded }: WithFigures,
  renumber: Renumber,
  names: FiguresNames & { readonly address: (number: number) => string },
): Generator<Line> {
  yield { text: `${figuresHead(grain, folded).join(',')}\r\n`, rows: 0 };
  const again = columnsUsedAgain();
  const pieces = db.$client
    .prepare<[number, number], [number, number, Buffer]>(
      'SELECT address_id, piece, bytes FROM figures WHERE import_id = ? AND grain = ? ORDER BY address_id, piece',
    )
    .raw()
    .iterate(id, GRAINS[grain].code);
  for (const [addressId, piece, bytes] of pieces) {
    // Of another site there can be none; of one that is gone there is nothing to say.
    if (renumber('address', addressId) === null) continue;
    const { facts, vintage } = unpackPiece(bytes, baseDay(grain, piece), GRAINS[grain].values.length, again);
    const text = figuresLines({ facts, vintage, piece }, grain, folded, names.address(addressId), names);
    yield { text, rows: facts.rows };
  }
}

/** Texts by their number, as cells; 0 is none. */
function cellsOf(db: Db, table: 'query' | 'label' | 'address'): (number: number) => string {
  const find = prepared<[number], string>(db, `SELECT text FROM ${table} WHERE id = ?`).pluck();
  const known = new Map<number, string>([[GONE, '']]);
  return (number) => {
    let cell = known.get(number);
    if (cell === undefined) {
      cell = textCell(find.get(number) ?? '');
      known.set(number, cell);
    }
    return cell;
  };
}
