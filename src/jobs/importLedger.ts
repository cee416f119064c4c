import { shownCells } from '../core/intake/inspection';
import { addDays, type Day } from '../core/calendar/day';
import { headKey } from '../core/intake/columns';
import { DateOrderEvidence, type DateOrder } from '../core/intake/dates';
import { intakeSettingsSchema, type IntakeSettings } from '../core/intake/settings';
import { ledgerProblems, recogniseLedger, type LedgerMapping } from '../core/intake/ledgerColumns';
import type { LedgerInspection } from '../core/intake/ledgerInspection';
import {
  changesOfRows,
  kindOf,
  readLedgerRow,
  unsureKinds,
  type LedgerPlan,
  type LedgerRow,
} from '../core/intake/ledgerRows';
import type { Site } from '../core/model/site';
import { pageAddressOf } from '../store/addresses/pages';
import type { Db } from '../store/database';
import { failImport, type RefusedRow } from '../store/figures/arrival';
import { rememberedSettings, rememberSettings, updateImport, type ImportRow } from '../store/figures/imports';
import { InputError } from '../store/inputError';
import { knownRowKeys, storeSheet } from '../store/ledger/sheetImport';
import { asText } from './intake/asText';
import { FileRefused } from './intake/fileRefused';
import { dialectOf, forEachRecord, readHead } from './intake/text';
import type { CsvHead } from './intake/csvHead';

/** A ledger of more rows is none that people kept. */
const MOST_ROWS = 5000;
const SAMPLE_ROWS = 8;

type SheetFile = {
  readonly csv: CsvHead;
  readonly dialect: string;
  readonly rows: readonly { readonly line: number; readonly cells: readonly string[] }[];
};

/** The rows of a sheet of changes. Throws FileRefused where it is no table, or too long. */
async function readSheetFile(sent: string): Promise<SheetFile> {
  const { file, madeOf } = await asText(sent);
  const csv = await readHead(file);
  const rows: { line: number; cells: string[] }[] = [];
  await forEachRecord(file, csv, (cells, line) => {
    // Sheets often end in rows in which nothing stands.
    if (cells.every((cell) => cell.trim() === '')) return;
    rows.push({ line, cells });
    if (rows.length > MOST_ROWS)
      throw new FileRefused(`A sheet of changes may have at most ${MOST_ROWS} rows; divide it.`);
  });
  return { csv, dialect: madeOf ?? dialectOf(csv), rows };
}

/**
 * How a sheet is read: as stated, as confirmed for the same head before, or by its column names.
 */
type Understood = {
  readonly mapping: LedgerMapping;
  readonly join: boolean;
  readonly kinds: LedgerPlan['kinds'];
  readonly dateOrder: ReturnType<DateOrderEvidence['finding']>;
  readonly problems: readonly string[];
};

function understand(db: Db, site: Site, { csv, rows }: SheetFile, settings: IntakeSettings): Understood {
  const remembered = rememberedSettings(db, site.id, headKey(csv.head));
  const mapping = settings.ledger?.mapping ?? remembered.ledger?.mapping ?? recogniseLedger(csv.head);
  const evidence = new DateOrderEvidence();
  if (mapping.day != null) for (const { cells } of rows) evidence.add(cells[mapping.day] ?? '');
  const found = evidence.finding();
  return {
    mapping,
    join: settings.ledger?.join ?? remembered.ledger?.join ?? false,
    kinds: settings.ledger?.kinds ?? remembered.ledger?.kinds,
    dateOrder: settings.dateOrder ?? (found === 'ambiguous' ? (remembered.dateOrder ?? found) : found),
    problems: ledgerProblems(mapping, csv.head.length),
  };
}

function readRows(
  site: Site,
  { rows }: SheetFile,
  { mapping, kinds, dateOrder }: Pick<Understood, 'mapping' | 'kinds' | 'dateOrder'>,
  takenOn: Day,
) {
  const read: LedgerRow[] = [];
  const refused: RefusedRow[] = [];
  const plan = {
    ...{ mapping, kinds, dateOrder: settled(dateOrder), newestDay: addDays(takenOn, 1) },
    address: (text: string) => pageAddressOf(site, text),
  };
  for (const { line, cells } of rows) {
    const row = readLedgerRow(cells, line, plan);
    if (typeof row === 'string') refused.push({ line, message: row, cells });
    else read.push(row);
  }
  return { read, refused };
}

const settled = (order: Understood['dateOrder']): DateOrder =>
  order === 'ambiguous' ? 'day-first' : order === 'none' ? 'year-first' : order;

/** Looks through a sheet of changes before anything of it is stored. Throws FileRefused. */
export async function inspectLedger(
  db: Db,
  site: Site,
  sent: string,
  takenOn: Day,
  settings: IntakeSettings,
): Promise<LedgerInspection> {
  const sheet = await readSheetFile(sent);
  const understood = understand(db, site, sheet, settings);
  const { mapping, join, kinds = {}, dateOrder, problems } = understood;
  const { read, refused } = readRows(site, sheet, understood, takenOn);
  const written = sheet.rows.map(({ cells }) => (mapping.kind == null ? '' : (cells[mapping.kind] ?? '')));
  const known = knownRowKeys(db, site.id);
  const fresh = read.filter(({ key }) => !known.has(key));
  const byLine = new Map<number, LedgerRow['change'] | string>([
    ...read.map(({ line, change }) => [line, change] as const),
    ...refused.map(({ line, message }) => [line, message] as const),
  ]);
  return {
    head: sheet.csv.head,
    ...{ mapping, problems, dateOrder, join, dialect: sheet.dialect },
    asksDateOrder: dateOrder === 'ambiguous',
    unsure: unsureKinds(written).map((one) => ({
      ...one,
      kind: Object.hasOwn(kinds, one.written) ? kinds[one.written]! : kindOf(one.written),
    })),
    rows: sheet.rows.length,
    refused: refused.length,
    known: read.length - fresh.length,
    changes: changesOfRows(fresh, join).length,
    sample: sheet.rows.slice(0, SAMPLE_ROWS).map(({ line, cells }) => ({
      ...{ line, cells: shownCells(cells) },
      understood: problems.length > 0 ? 'The columns are not settled.' : byLine.get(line)!,
    })),
  };
}

/** Imports the changes of a sheet; a file that can’t be read is marked failed with a sentence. */
export async function importLedger(db: Db, row: ImportRow, site: Site, sent: string): Promise<void> {
  let counts = { read: 0, refused: 0, leftOut: 0 };
  let refused: readonly RefusedRow[] = [];
  try {
    const settings = intakeSettingsSchema.parse(JSON.parse(row.settings ?? '{}'));
    const sheet = await readSheetFile(sent);
    await updateImport(db, row.id, { dialect: sheet.dialect });
    const understood = understand(db, site, sheet, settings);
    const open = openQuestion(understood, sheet.csv.head, sheet.rows.length);
    if (open) throw open;
    const { join } = understood;
    const read = readRows(site, sheet, understood, row.takenOn as Day);
    refused = read.refused;
    counts = { ...counts, read: sheet.rows.length, refused: refused.length };
    if (read.read.length === 0)
      throw new FileRefused('None of the rows could be read; the reasons are listed with their lines.');
    const known = knownRowKeys(db, site.id);
    const fresh = uniqueRows(read.read).filter(({ key }) => !known.has(key));
    const repeated = read.read.length - fresh.length;
    await storeSheet(db, site, row.id, changesOfRows(fresh, join), { read: counts.read, repeated }, refused);
    if (settings.ledger || settings.dateOrder)
      await rememberSettings(db, site.id, headKey(sheet.csv.head), settings);
  } catch (error) {
    if (!(error instanceof FileRefused) && !(error instanceof InputError)) throw error;
    await failImport(db, row.id, error.message, counts, refused);
  }
}

/** Of rows that say the same change the first. */
function uniqueRows(rows: readonly LedgerRow[]): LedgerRow[] {
  return [...new Map([...rows].reverse().map((row) => [row.key, row])).values()].reverse();
}

/** Says what has to be stated before a sheet can be taken; null where it can. */
export function openQuestion(
  { problems, dateOrder }: Pick<LedgerInspection, 'problems' | 'dateOrder'>,
  head: readonly string[],
  rows: number,
): FileRefused | null {
  if (rows === 0) return new FileRefused('The file has a head and no rows.');
  if (problems.length > 0) {
    const names = head.slice(0, 12).map((name) => `“${name.slice(0, 40)}”`);
    return new FileRefused(
      `${problems.join(' ')} The columns of the file are ${names.join(', ')}.`,
      'mapping',
    );
  }
  if (dateOrder !== 'ambiguous') return null;
  return new FileRefused(
    'The dates could be day first or month first, and nothing in the column settles it. Say which, as dateOrder=day-first or dateOrder=month-first.',
    'dateOrder',
  );
}
