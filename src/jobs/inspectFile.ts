import { stat } from 'node:fs/promises';
import type { Day } from '../core/calendar/day';
import { GRAINS, type Grain } from '../core/facts/grains';
import { DateOrderEvidence } from '../core/intake/dates';
import { needsPeriod, periodProblem } from '../core/intake/grain';
import type { Inspection, Stated, UnderstoodRow } from '../core/intake/inspection';
import { RowReader } from '../core/intake/rowReader';
import { addressReader } from './intake/addressReader';
import { mappingOf, type Remembered } from './intake/settings';
import { asText } from './intake/sheet';
import { dialectOf, forEachRecord, readHead } from './intake/text';

export const SAMPLE_ROWS = 8;
const LARGE_FILE_BYTES = 32 * 1024 * 1024;
const LOOKED_AT_BYTES = 8 * 1024 * 1024;

/**
 * Looks through a file: how it is written, its columns, the order of its dates (from the whole column, unless the file
 * is large and its beginning settles it), and the first rows as they would be read. Throws FileRefused where it is no CSV.
 */
export async function inspectFile(
  sent: string,
  site: { readonly address: string },
  newestDay: Day,
  stated: Stated = {},
  rememberedOf: (head: readonly string[]) => Remembered = () => ({}),
): Promise<Inspection> {
  const file = await asText(sent);
  const csv = await readHead(file);
  const remembered = rememberedOf(csv.head);
  const { mapping, grain, problems } = mappingOf(csv, stated, remembered);
  const evidence = new DateOrderEvidence();
  const first: { line: number; cells: string[] }[] = [];
  const { size } = await stat(file);
  let [rows, rowsEstimated] = [0, false];
  let bytesRead = 0;
  const onRecord = (cells: string[], at: number) => {
    rows++;
    if (first.length < SAMPLE_ROWS) first.push({ line: at, cells });
    if (mapping.date != null) evidence.add(cells[mapping.date] ?? '');
  };
  // Of a large file the beginning says enough, unless it leaves the order of day and month open.
  const enough = () =>
    size > LARGE_FILE_BYTES &&
    bytesRead > LOOKED_AT_BYTES &&
    (stated.dateOrder !== undefined || !['ambiguous', 'none'].includes(evidence.finding()));
  const whole = await forEachRecord(file, csv, onRecord, (bytes) => (bytesRead = bytes), enough);
  if (!whole) [rows, rowsEstimated] = [Math.round((rows * size) / bytesRead), true];
  const found = evidence.finding();
  const dateOrder = stated.dateOrder ?? (found === 'ambiguous' ? (remembered.dateOrder ?? found) : found);
  const period = stated.period ?? null;
  const ofPeriod = grain !== null && needsPeriod(grain);
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
          address: addressReader(site.address),
        });
  return {
    head: csv.head,
    mapping,
    grain,
    mappingProblems: [...problems, ...(wrongPeriod ? [wrongPeriod] : [])],
    dateOrder,
    questions: [
      ...(dateOrder === 'ambiguous' ? (['dateOrder'] as const) : []),
      ...(ofPeriod && !period ? (['period'] as const) : []),
    ],
    period,
    rows,
    rowsEstimated,
    dialect: file === sent ? dialectOf(csv) : 'spreadsheet',
    sample: first.map(({ line, cells }) => ({
      line,
      cells,
      understood:
        reader && grain
          ? (reader.read(cells) ?? understoodRow(reader, grain))
          : 'The columns are not settled.',
    })),
  };
}

function understoodRow(reader: RowReader, grain: Grain): UnderstoodRow {
  const { day, address, query, device, country, values, attributes } = reader;
  return {
    day: GRAINS[grain].dated ? day : null,
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
