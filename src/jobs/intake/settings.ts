import { addDays, isoDay, type Day } from '../../core/calendar/day';
import { headKey, passedOver, recogniseColumns, type ColumnMapping } from '../../core/intake/columns';
import { choicesIn } from '../../core/intake/counted';
import { DateOrderEvidence, type DateOrder, type DateOrderFinding } from '../../core/intake/dates';
import { VALUE_COLUMN } from '../../core/intake/matrix';
import { findGrain, needsPeriod, periodProblem, type GrainFinding } from '../../core/intake/grain';
import type { Stated } from '../../core/intake/inspection';
import type { Site } from '../../core/model/site';
import type { Db } from '../../store/database';
import { rememberedSettings } from '../../store/figures/imports';
import { FileRefused } from './fileRefused';
import type { ReadingPlan } from './rows';
import { forEachRecord } from './text';
import type { CsvHead } from './csvHead';

/** How the last file with the same head was read. */
export type Remembered = Pick<Stated, 'mapping' | 'dateOrder' | 'counted'>;

export function rememberedFor(db: Db, siteId: number, head: readonly string[]): Remembered {
  return rememberedSettings(db, siteId, headKey(head));
}

/** What the columns and rows of a file hold: as stated, as confirmed before, or by column names. */
export function mappingOf(
  csv: CsvHead,
  stated: Stated,
  remembered: Remembered,
): { mapping: ColumnMapping } & GrainFinding {
  const mapping = stated.mapping ?? remembered.mapping ?? recogniseColumns(csv.head, csv.first);
  const found = findGrain(mapping, csv.head.length);
  const chosen = stated.mapping !== undefined || remembered.mapping !== undefined;
  const value = csv.head.indexOf(VALUE_COLUMN);
  if (found.grain === null && value >= 0 && !Object.values(mapping).includes(value))
    return {
      mapping,
      grain: null,
      problems: [
        `The table has a column for each day, and does not say what its cells hold. Choose it for “${VALUE_COLUMN}”: positions by query, or sessions by page. Clicks can only come with their impressions: name both in the head, as in “2026-11-01 clicks”.`,
      ],
    };
  const passed = chosen ? [] : passedOver(csv.head, found.grain);
  if (passed.length === 0) return { mapping, ...found };
  const names = passed.map((name) => `“${name}”`).join(' and ');
  return {
    mapping,
    grain: null,
    problems: [
      `${names} may be the page or the query, and is not recognised. Choose what it holds: without it, each row would count as the total of the whole site.`,
    ],
  };
}

/** Looks through a whole date column for the order of its days and months. */
export async function findDateOrder(file: string, csv: CsvHead, column: number): Promise<DateOrderFinding> {
  const evidence = new DateOrderEvidence();
  await forEachRecord(file, csv, (cells) => evidence.add(cells[column] ?? ''));
  return evidence.finding();
}

/**
 * The date order of a file; if the whole column is ambiguous, that of the last file with the same
 * head. Throws FileRefused if there is none.
 */
export async function settleDateOrder(
  file: string,
  csv: CsvHead,
  column: number,
  remembered: Remembered,
): Promise<DateOrder> {
  const finding = await findDateOrder(file, csv, column);
  if (finding === 'ambiguous') {
    if (remembered.dateOrder) return remembered.dateOrder;
    throw new FileRefused(
      'The dates could be day first or month first, and nothing in the column settles it. Say which, as dateOrder=day-first or dateOrder=month-first.',
      'dateOrder',
    );
  }
  // Where not one date can be read, each row will say so with its line.
  return finding === 'none' ? 'year-first' : finding;
}

/** How the rows of a file are to be read. Throws FileRefused where that is not settled. */
export function planFor(
  csv: CsvHead,
  stated: Stated,
  remembered: Remembered,
  site: Site,
  takenOn: Day,
): ReadingPlan {
  const { mapping, grain, problems } = mappingOf(csv, stated, remembered);
  if (grain === null) {
    const names = csv.head.slice(0, 12).map((name) => `“${name.slice(0, 40)}”`);
    throw new FileRefused(
      `${problems.join(' ')} The columns of the file are ${names.join(', ')}.`,
      'mapping',
    );
  }
  const ofPeriod = needsPeriod(grain, mapping);
  if (ofPeriod) {
    const problem = periodProblem(stated.period);
    if (problem)
      throw new FileRefused(`${problem} Say it as firstDay=2026-09-01 and lastDay=2026-09-28.`, 'period');
    if (stated.period!.lastDay > addDays(takenOn, 1)) {
      throw new FileRefused(`The period ends on ${isoDay(stated.period!.lastDay)}, in the future.`, 'period');
    }
  }
  return {
    grain,
    mapping,
    columns: csv.head.length,
    dateOrder: stated.dateOrder ?? null,
    counted: stated.counted ?? remembered.counted ?? {},
    periodEnd: ofPeriod ? stated.period!.lastDay : null,
    // A day ahead is allowed for time zones east of the server's.
    newestDay: addDays(takenOn, 1),
    siteAddress: site.address,
    form: csv.form,
    head: csv.head,
    delimiter: csv.delimiter,
    lineEnd: csv.lineEnd,
    skipped: csv.skipped,
  };
}

/** Says that all rows of a file are of kinds that do not count. */
export function noneCounts(mapping: ColumnMapping): string {
  if (mapping.appearance != null && choicesIn(mapping).length === 0)
    return 'All rows are divided by how the result appeared. A search can appear in several ways at once, so these overlap and cannot be added up; send the file without that division.';
  return 'None of the rows is of a kind that counts. Say which values of the channel, or kinds of search, count, as counted={"channel":["…"]} or counted={"searchType":["…"]}.';
}
