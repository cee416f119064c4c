import { stat } from 'node:fs/promises';
import type { Day } from '../core/calendar/day';
import { GRAINS, type Grain } from '../core/facts/grains';
import type { ColumnMapping } from '../core/intake/columns';
import { DateOrderEvidence } from '../core/intake/dates';
import { needsPeriod, periodProblem } from '../core/intake/grain';
import type { Stated, UnderstoodRow } from '../core/intake/inspection';
import { shownCells, type Inspection } from '../core/intake/inspection';
import { ChoiceCount, choicesIn, counting } from '../core/intake/counted';
import { LEFT_OUT, RowReader } from '../core/intake/rowReader';
import { addressReader } from './intake/addressReader';
import { mappingOf, type Remembered } from './intake/settings';
import { asText } from './intake/asText';
import type { OnRecord } from './intake/records';
import { dialectOf, forEachRecord, readHead } from './intake/text';

/** Rows that are shown; of these the refused ones come first. */
export const SAMPLE_ROWS = 20;
/** Rows that are read to see whether they would be refused. */
const LOOKED_ROWS = 2000;
const LARGE_FILE_BYTES = 32 * 1024 * 1024;
const LOOKED_AT_BYTES = 8 * 1024 * 1024;

/**
 * Inspects a file: its format, its columns, its date order (from the whole column, unless the file
 * is large and its beginning settles it), and its first rows as they would be read. Throws
 * FileRefused if it isn’t a table.
 */
export async function inspectFile(
  sent: string,
  site: { readonly address: string },
  newestDay: Day,
  stated: Stated = {},
  rememberedOf: (head: readonly string[]) => Remembered = () => ({}),
): Promise<Inspection> {
  const { file, madeOf } = await asText(sent);
  const csv = await readHead(file, stated.headLine);
  const remembered = rememberedOf(csv.head);
  const { mapping, grain, problems } = mappingOf(csv, stated, remembered);
  const evidence = new DateOrderEvidence();
  const first: { line: number; cells: string[]; problem: string | undefined }[] = [];
  const counted = stated.counted ?? remembered.counted ?? {};
  const choices = choicesIn(mapping).map((choice) => ({
    at: mapping[choice]!,
    counts: counting(choice, counted[choice]),
    count: new ChoiceCount(choice, counted[choice]),
  }));
  const { size } = await stat(file);
  let [rows, rowsCounted, rowsEstimated] = [0, 0, false];
  let bytesRead = 0;
  const onRecord: OnRecord = (cells, at, problem) => {
    rows++;
    for (const { at: column, count } of choices) count.add(cells[column] ?? '');
    const counts =
      choices.every((one) => one.counts(cells[one.at] ?? '')) &&
      (mapping.appearance == null || (cells[mapping.appearance] ?? '').trim() === '');
    if (counts) rowsCounted++;
    if (first.length < LOOKED_ROWS) first.push({ line: at, cells, problem });
    if (mapping.date != null) evidence.add(cells[mapping.date] ?? '');
  };
  // Of a large file the beginning says enough, unless it leaves the order of day and month open.
  const enough = () =>
    size > LARGE_FILE_BYTES &&
    bytesRead > LOOKED_AT_BYTES &&
    (stated.dateOrder !== undefined || !['ambiguous', 'none'].includes(evidence.finding()));
  const whole = await forEachRecord(file, csv, onRecord, (bytes) => (bytesRead = bytes), enough);
  if (!whole) {
    const scale = size / bytesRead;
    [rows, rowsCounted, rowsEstimated] = [Math.round(rows * scale), Math.round(rowsCounted * scale), true];
  }
  const found = evidence.finding();
  const dateOrder = stated.dateOrder ?? (found === 'ambiguous' ? (remembered.dateOrder ?? found) : found);
  const period = stated.period ?? null;
  const ofPeriod = grain !== null && needsPeriod(grain, mapping);
  const wrongPeriod = ofPeriod && period ? periodProblem(period) : null;
  const reader =
    grain === null
      ? null
      : new RowReader({
          grain,
          mapping,
          columns: csv.head.length,
          dateOrder: dateOrder === 'ambiguous' || dateOrder === 'none' ? 'day-first' : dateOrder,
          periodEnd: period?.lastDay ?? null,
          newestDay,
          counted,
          address: addressReader(site.address),
        });
  const sample = first.map(({ line, cells, problem }) => {
    const read = problem ?? (reader ? reader.read(cells) : 'The columns are not settled.');
    const understood =
      read === LEFT_OUT ? null : (read ?? (reader && grain ? understoodRow(reader, grain, mapping) : null));
    return { line, cells: shownCells(cells), understood };
  });
  const refused = sample.filter(({ understood }) => typeof understood === 'string');
  return {
    head: csv.head,
    mapping,
    grain,
    mappingProblems: [...problems, ...(wrongPeriod ? [wrongPeriod] : [])],
    dateOrder,
    questions: [
      ...(dateOrder === 'ambiguous' ? (['dateOrder'] as const) : []),
      ...(ofPeriod && !period ? (['period'] as const) : []),
      ...(rows > 0 && rowsCounted === 0 ? (['counted'] as const) : []),
    ],
    period,
    rows,
    rowsCounted,
    choices: choices.map(({ count }) => count.finding()),
    byAppearance: mapping.appearance != null,
    rowsEstimated,
    dialect: madeOf ?? dialectOf(csv),
    headLine: csv.skipped + 1,
    // Before it is known what they are about, no row is good or bad.
    looked: { rows: sample.length, refused: reader ? refused.length : 0 },
    sample: [...refused, ...sample.filter(({ understood }) => typeof understood !== 'string')].slice(
      0,
      SAMPLE_ROWS,
    ),
  };
}

function understoodRow(reader: RowReader, grain: Grain, mapping: ColumnMapping): UnderstoodRow {
  const { day, address, query, device, country, values, attributes } = reader;
  return {
    day: GRAINS[grain].dated || mapping.week != null ? day : null,
    address: address.text || null,
    query: query.text || null,
    device,
    country: country.text,
    values: Object.fromEntries(
      GRAINS[grain].values.map((name, v) => [name, Number.isNaN(values[v]!) ? null : values[v]!]),
    ),
    attributes,
  };
}
