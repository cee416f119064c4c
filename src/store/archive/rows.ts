import { z } from 'zod';
import { parseIsoDay } from '../../core/calendar/day';
import { renumbered, type Numbered, type Renumber } from '../../core/archive/numbering';
import { isoDaySchema, optionalLinkSchema } from '../../core/model/fields';
import { logoSchema } from '../../core/model/report';
import { namedBy } from './contents';
import { SHAPES } from './shapes';
import { columnsOf, type ArchivedTable, type ColumnForm } from './tables';
import { ArchiveRefused } from './zip';

/*
 * Rows of an archive on their way into the database: each is held against what its columns can be, and what it names by number
 * against what the archive has.
 */

/** Long enough for the text of a page, and bounded. */
const MOST_CHARACTERS = 4_000_000;
/** What is fetched, or shown as a link to click; the whole site is the address without letters. */
const webAddress = z
  .string()
  .max(MOST_CHARACTERS)
  .regex(/^(?:https?:\/\/[^\s<>"]+)?$/i, 'It is no web address.');

/** Numbers of rows and days, places and counts: none is below nought. */
const wholeNumber = z.int().min(0);
/** An instant as the program writes it (ISO 8601, UTC). */
const instant = z.iso.datetime({ message: 'It is no instant, such as 2026-11-24T09:30:00.000Z.' });

/** How many things of a kind an archive has. */
export type Counts = (kind: Numbered) => number;

/** Turns written rows of a table into those of the database. */
export type RowReader = {
  readonly columns: readonly string[];
  /** The values of one row, in the order of `columns`. Throws ArchiveRefused. */
  readonly read: (row: unknown, line: number) => (string | number | null)[];
};

/** The reader of one table's rows. `renumber` gives the numbers that things have here. */
export function rowReader(table: ArchivedTable, counts: Counts, renumber: Renumber): RowReader {
  const forms = columnsOf(table);
  const schema = z.strictObject(
    Object.fromEntries(forms.map((form) => [form.key, schemaOf(form, table, counts)])),
  );
  const same = Object.entries(table.same ?? {});
  return {
    columns: [...forms.map(({ name }) => name), ...same.map(([name]) => name)],
    read(row, line) {
      const parsed = schema.safeParse(row);
      if (!parsed.success) {
        const [issue] = parsed.error.issues;
        throw refused(table, line, `${issue!.path.join('.') || 'the row'}: ${issue!.message}`);
      }
      const given = row as Readonly<Record<string, unknown>>;
      const values = forms.map((form) => cellRead(given[form.key], form, table, renumber));
      return [...values, ...same.map(([, value]) => value)];
    },
  };
}

/** The error about a line of a table's file. */
export function refused({ file }: Pick<ArchivedTable, 'file'>, line: number, why: string): ArchiveRefused {
  return new ArchiveRefused(`${file} in the archive, line ${line.toLocaleString('en-GB')}: ${why}`);
}

function schemaOf(form: ColumnForm, table: ArchivedTable, counts: Counts): z.ZodType {
  const { column, key } = form;
  const schema = valueSchema(form, table, counts);
  if (!column.notNull) return schema.nullable().optional();
  // An archive of an earlier version lacks columns that came later.
  return column.hasDefault && key !== 'id' ? schema.optional() : schema;
}

function valueSchema({ key, column, isDay }: ColumnForm, table: ArchivedTable, counts: Counts): z.ZodType {
  const named = namedBy(table, key);
  if (named) return z.int().min(1).max(counts(named));
  const json = table.json?.[key];
  if (json) return SHAPES[json.shape];
  if (isDay) return isoDaySchema;
  if (column.dataType === 'boolean') return z.boolean();
  const own = table.fields?.[key];
  if (own) return own;
  if (column.dataType === 'number') return column.getSQLType() === 'integer' ? wholeNumber : z.number();
  const among = table.among?.[key];
  if (among) return z.enum(among);
  if (column.enumValues) return z.enum(column.enumValues as [string, ...string[]]);
  if (key === 'logo') return logoSchema;
  if (/(?:^a|A)t$/.test(key)) return instant;
  if (key === 'link') return optionalLinkSchema;
  if (table.web?.includes(key)) return webAddress;
  return z.string().max(MOST_CHARACTERS);
}

function cellRead(
  value: unknown,
  { key, column, isDay }: ColumnForm,
  table: ArchivedTable,
  renumber: Renumber,
): string | number | null {
  if (table.stays && Object.hasOwn(table.stays, key)) return plain(table.stays[key]!);
  if (value === undefined) return plain((column.default ?? null) as string | number | boolean | null);
  if (value === null) return null;
  const named = namedBy(table, key);
  if (named) return renumber(named, value as number);
  const json = table.json?.[key];
  if (json) return JSON.stringify(renumbered(value, json.numbers ?? [], renumber));
  const inText = table.texts?.[key];
  if (inText) return inText(value as string, renumber);
  return isDay ? parseIsoDay(value as string) : plain(value as string | number | boolean);
}

const plain = (value: string | number | boolean | null) =>
  typeof value === 'boolean' ? Number(value) : value;
