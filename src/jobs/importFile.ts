import { addDays, type Day } from '../core/calendar/day';
import { mappingProblems, recogniseColumns, type ColumnMapping } from '../core/intake/columns';
import { DateOrderEvidence, type DateOrder } from '../core/intake/dates';
import { fingerprint } from '../core/intake/fingerprint';
import { readRow, type RowContext } from '../core/intake/row';
import type { Site } from '../core/model/site';
import type { Db } from '../store/database';
import { findImport, intakeSettingsSchema, updateImport } from '../store/imports';
import { findSite } from '../store/sites';
import { Staging } from '../store/staging';
import { timestamp } from '../store/write';
import { FileRefused, forEachRecord, readHead, type CsvHead } from './csvFile';
import { addressReader } from './inspectFile';

/** How often the moving count is written where others can see it. */
const PROGRESS_EVERY_MS = 200;

/**
 * Brings one file in: reads, checks and stages its rows, then stores them all at once and marks the import as
 * done. A file that cannot be taken is marked as failed with a sentence, and nothing of it is stored.
 */
export async function importFile(db: Db, importId: number, file: string): Promise<void> {
  const row = findImport(db, importId);
  const site = row && findSite(db, row.siteId);
  if (!row || !site) return;
  await updateImport(db, importId, { state: 'running', startedAt: timestamp() });
  const staging = new Staging(db);
  try {
    const settings = intakeSettingsSchema.parse(JSON.parse(row.settings ?? '{}'));
    const csv = await readHead(file);
    const mapping = settings.mapping ?? recogniseColumns(csv.head);
    refuseMapping(mapping, csv);
    const dateOrder = settings.dateOrder ?? (await settleDateOrder(file, csv, mapping));
    await stageRows(
      db,
      importId,
      file,
      csv,
      staging,
      rowContext(site, mapping, dateOrder, row.takenOn as Day),
    );
    refuseEmpty(staging);
    await staging.merge(importId, site.id, mapping.query == null ? 'page_day' : 'page_query_day');
  } catch (error) {
    if (!(error instanceof FileRefused)) throw error;
    await staging.fail(importId, error.message);
  }
}

function rowContext(site: Site, mapping: ColumnMapping, dateOrder: DateOrder, takenOn: Day): RowContext {
  // A day ahead is allowed for time zones east of the server's.
  return { mapping, dateOrder, newestDay: addDays(takenOn, 1), address: addressReader(site.address) };
}

function refuseMapping(mapping: ColumnMapping, csv: CsvHead): void {
  const problems = mappingProblems(mapping, csv.head.length);
  if (problems.length === 0) return;
  const names = csv.head.slice(0, 12).map((name) => `“${name.slice(0, 40)}”`);
  throw new FileRefused(`${problems.join(' ')} The columns of the file are ${names.join(', ')}.`);
}

/** Looks through the whole date column. Throws FileRefused where it leaves the order of day and month open. */
async function settleDateOrder(file: string, csv: CsvHead, mapping: ColumnMapping): Promise<DateOrder> {
  const evidence = new DateOrderEvidence();
  const column = mapping.date ?? 0;
  await forEachRecord(file, csv, (cells) => evidence.add(cells[column] ?? ''));
  const finding = evidence.finding();
  if (finding === 'ambiguous') {
    throw new FileRefused(
      'The dates could be day first or month first, and nothing in the column settles it. Say which, as dateOrder=day-first or dateOrder=month-first.',
    );
  }
  // Where not one date can be read, each row will say so with its line.
  return finding === 'none' ? 'year-first' : finding;
}

async function stageRows(
  db: Db,
  importId: number,
  file: string,
  csv: CsvHead,
  staging: Staging,
  context: RowContext,
): Promise<void> {
  const columns = csv.head.length;
  const progress = db.$client.prepare(
    'UPDATE import SET rows_read = ?, rows_refused = ?, bytes_read = ? WHERE id = ?',
  );
  let reported = 0;
  let cancelled = false;
  await forEachRecord(
    file,
    csv,
    (cells, line) => {
      const problem = shapeProblem(cells, columns);
      const row = problem ?? readRow(cells, context);
      if (typeof row === 'string') staging.refuse(line, row, cells);
      else staging.add(row, fingerprint(cells));
    },
    {
      inPiece: (work, bytesRead) => {
        staging.batch(work);
        if (Date.now() - reported < PROGRESS_EVERY_MS) return;
        reported = Date.now();
        try {
          progress.run(staging.counts.read, staging.counts.refused, bytesRead, importId);
        } catch {
          // Somebody else is writing just now; the next report will do.
        }
        cancelled = findImport(db, importId)?.cancelled ?? true;
      },
      stop: () => cancelled,
    },
  );
  if (cancelled || findImport(db, importId)?.cancelled)
    throw new FileRefused('Cancelled before anything was stored.');
}

/** Why a row cannot be divided into the columns of the head, or null where it can. */
function shapeProblem(cells: readonly string[], columns: number): string | null {
  const surplus = cells.slice(columns).some((cell) => cell.trim() !== '');
  if (cells.length < columns || surplus) {
    return `The row has ${cells.length} cells where the head has ${columns}.`;
  }
  return cells.some((cell) => cell.includes('\ufffd')) ? 'The row holds bytes that are not UTF-8.' : null;
}

function refuseEmpty(staging: Staging): void {
  const { read, accepted } = staging.counts;
  if (read === 0) throw new FileRefused('The file has a head and no rows.');
  if (accepted === 0) {
    throw new FileRefused(
      'None of the rows could be read; the reasons are listed with their lines. Nothing was stored.',
    );
  }
}
