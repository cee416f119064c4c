import writeXlsxFile from 'write-excel-file/node';
import { readLine } from '../../core/report/html';
import type { ReportTable, ShownReport } from '../../core/report/model';

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
    data: [
      head,
      ...rows.map((row) =>
        row.map(({ text, value }, i) =>
          columns[i]?.figures && typeof value === 'number'
            ? { value, type: Number }
            : { value: text, type: String },
        ),
      ),
    ],
  };
}
