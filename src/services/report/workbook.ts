import writeXlsxFile from 'write-excel-file/node';
import { readLine } from '../../core/report/html';
import type { ReportCell, ReportTable, ShownReport } from '../../core/model/reportContent';

/** The tables of a report as a spreadsheet, a sheet for each; figures as numbers where they are such. */
export async function reportWorkbook(report: ShownReport): Promise<Buffer> {
  const { content } = report;
  const front = {
    data: [
      [{ value: content.title, fontWeight: 'bold' as const, type: String }],
      [{ value: `${content.site}, ${content.about}`, type: String }],
      [{ value: readLine(report), type: String }],
      ...content.parts.flatMap(({ heading, sentences }) => [
        [],
        [{ value: heading, fontWeight: 'bold' as const, type: String }],
        ...sentences.map((value) => [{ value, type: String }]),
      ]),
    ],
    sheet: 'Report',
    columns: [{ width: 100 }],
  };
  const names = new Set([front.sheet]);
  const tables = content.parts.flatMap(({ tables: own }) => own).map((table) => sheetOf(table, names));
  const sheets = [front, ...tables];
  return writeXlsxFile(sheets).toBuffer();
}

/** Names of sheets have at most 31 characters, none of them []:*?/\, and each is there once. */
function sheetName(title: string, taken: Set<string>): string {
  const plain =
    title
      .replaceAll(/[[\]:*?/\\]/g, ' ')
      .slice(0, 27)
      .trim() || 'Table';
  let name = plain;
  for (let i = 2; taken.has(name); i++) name = `${plain} ${i}`;
  taken.add(name);
  return name;
}

function sheetOf({ title, columns, rows }: ReportTable, taken: Set<string>) {
  const head = columns.map(({ name }) => ({ value: name, fontWeight: 'bold' as const, type: String }));
  return {
    sheet: sheetName(title, taken),
    columns: columns.map((_, i) => ({ width: i === 0 ? 40 : 18 })),
    stickyRowsCount: 1,
    data: [head, ...rows.map((row) => row.map((cell, i) => cellOf(cell, columns[i]?.figures ?? false)))],
  };
}

const ISO_DAY = /^\d{4}-\d\d-\d\d$/;

/**
 * A cell of a spreadsheet: days as dates, figures as numbers in the form in which the report writes them
 * (percentages, places after the point, thousands), anything else as text.
 */
export function cellOf({ text, value }: ReportCell, isFigure: boolean) {
  if (typeof value === 'string' && ISO_DAY.test(value))
    return { value: new Date(`${value}T00:00:00Z`), type: Date, format: 'd mmm yyyy' };
  if (!isFigure || typeof value !== 'number') return { value: text, type: String };
  return { ...numberOf(text, value), type: Number };
}

function numberOf(text: string, value: number): { value: number; format: string } {
  const written = /([+\u2212-]?)([\d,]*\.?\d+)\s*(%|pt)?/.exec(text);
  const sign = written?.[1] ? '+' : '';
  const decimals = written?.[2]?.split('.')[1]?.length ?? 0;
  const places = decimals > 0 ? `.${'0'.repeat(decimals)}` : '';
  const signed = (form: string) => (sign === '' ? form : `+${form};-${form};${form}`);
  if (written?.[3] === undefined) return { value, format: signed(`#,##0${places}`) };
  const percent = Number(written[2]!.replaceAll(',', '')) * (/[\u2212-]/.test(written[1]!) ? -1 : 1);
  // A ratio such as 1.09 is written as the +9% that it means; a share as it is.
  const own = Math.abs(100 * value - percent) <= Math.abs(100 * (value - 1) - percent) ? value : value - 1;
  return { value: own, format: signed(`0${places}%`) };
}
