import type { Working } from '../effect/working';
import { isInPlaces, MEASURE_NAMES } from '../measures/registry';
import { ComponentSheet, type ComponentCells } from './component';
import type { DailySum } from '../measures/registry';
import { DailySheet, type Daily } from './days';
import { rangeOf, serialOf, SheetWriter, type WorkSheet } from './workSheet';
import type { SpanCells } from './kriging';

const SPANS_ROW = { change: 2, settling: 3, days: 4, first: 5, last: 6 } as const;

/**
 * The working of a reading as a workbook: daily figures and what was learned as values, everything from there to the net and its range
 * as formulas. Who changes a span sees what comes of it. `about` says what it is of, a sentence a line.
 */
export function workingSheets(
  working: Working,
  daily: Daily,
  about: readonly string[],
  nameOf: (id: number) => string,
): WorkSheet[] {
  const spans = spansSheet(working);
  const ids = [...new Set([...working.subjects, ...working.control].map(({ id }) => id))];
  const days = new Map<DailySum, DailySheet>();
  const dailyOf = (column: DailySum) => {
    const known = days.get(column) ?? new DailySheet(column, daily, ids, nameOf);
    days.set(column, known);
    return known;
  };
  const components = working.components.map(
    (component) => new ComponentSheet(component, working, dailyOf, spans.cells, nameOf),
  );
  const reading = readingSheet(
    working,
    about,
    components.map(({ cells }) => cells),
    nameOf,
  );
  return [
    ...[reading, spans.sheet],
    ...components.flatMap(({ sheet, kriging }) => [sheet, kriging.sheet]),
    ...[...days.values()].map(({ sheet }) => sheet),
  ];
}

function spansSheet({ day, horizon }: Working): { sheet: SheetWriter; cells: SpanCells } {
  const sheet = new SheetWriter('spans');
  sheet.set(0, 0, 'Change the settling days or the days compared, and all sheets follow.');
  const { change, settling, days, first, last } = SPANS_ROW;
  sheet.line(change, ['day of the change', { day }]);
  sheet.line(settling, ['settling days, left out', horizon.settlingDays]);
  sheet.line(days, ['days compared', horizon.days]);
  sheet.set(first, 0, 'first day after');
  sheet.set(last, 0, 'last day after');
  const at = (row: number) => sheet.at(row, 1);
  sheet.formula(first, 1, `${at(change)}+${at(settling)}`);
  sheet.formula(last, 1, `${at(first)}+${at(days)}-1`);
  sheet.set(
    last + 2,
    0,
    'How far pages wander, and how many standard errors the range reaches, were learned for the days that stood here at first; over other days they are near, not the same.',
  );
  return {
    sheet,
    cells: { change: at(change), settling: at(settling), days: at(days), first: at(first), last: at(last) },
  };
}

function readingSheet(
  working: Working,
  about: readonly string[],
  components: readonly ComponentCells[],
  nameOf: (id: number) => string,
): SheetWriter {
  const sheet = new SheetWriter('reading');
  about.forEach((text, i) => sheet.set(i, 0, text));
  const pages = about.length + 6 + (isInPlaces(working.measure) ? 4 : 7);
  const [net, standardError] = effectFormulas(sheet, working, components, pages + 3, nameOf);
  const { estimate, critical, measure } = working;
  const head = about.length + 1;
  sheet.line(
    head,
    [MEASURE_NAMES[measure], 'by the formulas', 'as the program reads it', 'apart'].map((heading) => ({
      heading,
    })),
  );
  const line = (row: number, name: string, formula: string, own: number) => {
    sheet.line(row, [name, { formula }, own]);
    sheet.formula(row, 3, `B${row + 1}-C${row + 1}`);
  };
  const [n, s, c] = [head + 1, head + 2, head + 3].map((row) => sheet.at(row, 1)) as [string, string, string];
  line(head + 1, 'net, a logarithm', net, estimate.net);
  line(head + 2, 'standard error', standardError, estimate.standardError);
  sheet.line(head + 3, ['standard errors that the range reaches', critical, estimate.critical]);
  line(head + 4, 'low end, a logarithm', `${n}-${c}*${s}`, estimate.low);
  line(head + 5, 'high end, a logarithm', `${n}+${c}*${s}`, estimate.high);
  if (isInPlaces(measure)) return sheet;
  line(head + 6, 'net, as a ratio', `EXP(${n})`, Math.exp(estimate.net));
  line(head + 7, 'low end, as a ratio', `EXP(${sheet.at(head + 4, 1)})`, Math.exp(estimate.low));
  line(head + 8, 'high end, as a ratio', `EXP(${sheet.at(head + 5, 1)})`, Math.exp(estimate.high));
  return sheet;
}

/** Writes the pages from `row` on, one a line; gives formulas of the net of all of them and of its standard error. */
function effectFormulas(
  sheet: SheetWriter,
  { subjects, correlation, together }: Working,
  components: readonly ComponentCells[],
  row: number,
  nameOf: (id: number) => string,
): [net: string, standardError: string] {
  sheet.line(row - 2, ['correlation of the two errors', correlation]);
  const rho = sheet.at(row - 2, 1);
  sheet.line(
    row,
    [
      'page',
      'net',
      'variance',
      'of it from the control',
      'of its own',
      'weight',
      'weight with the spread',
    ].map((heading) => ({ heading })),
  );
  const [first, last] = [row + 1, row + subjects.length];
  subjects.forEach(({ id }, i) => {
    const at = first + i;
    const [a, b] = components.map((cells) => cells[i]!);
    sheet.set(at, 0, nameOf(id));
    sheet.formula(at, 1, b ? `${a!.net}+${b.net}` : a!.net);
    sheet.formula(
      at,
      2,
      b ? `${a!.variance}+${b.variance}+2*${rho}*SQRT(${a!.variance}*${b.variance})` : a!.variance,
    );
    sheet.formula(at, 3, b ? `${a!.shared}+${b.shared}` : a!.shared);
  });
  if (subjects.length === 1) return [sheet.at(first, 1), `SQRT(${sheet.at(first, 2)})`];
  const down = (column: number) => rangeOf([first, column], [last, column]);
  const [spread, fixed, heterogeneity, own] = [last + 2, last + 3, last + 4, last + 5];
  subjects.forEach((_, i) => {
    const at = first + i;
    sheet.formula(at, 4, `MAX(C${at + 1}/4,C${at + 1}-D${at + 1})`);
    sheet.formula(at, 5, `1/E${at + 1}`);
    sheet.formula(at, 6, `1/(E${at + 1}+${sheet.at(spread, 1)})`);
  });
  const names = [
    'spread between pages (tau squared)',
    'mean without it',
    'heterogeneity (Q)',
    'variance of the mean',
  ];
  [spread, fixed, heterogeneity, own].forEach((at, i) => sheet.set(at, 0, names[i]!));
  sheet.formula(fixed, 1, `SUMPRODUCT(${down(5)},${down(1)})/SUM(${down(5)})`);
  subjects.forEach((_, i) => {
    const at = first + i;
    sheet.formula(at, 7, `F${at + 1}*(B${at + 1}-${sheet.at(fixed, 1)})^2`);
  });
  sheet.formula(heterogeneity, 1, `SUM(${down(7)})`);
  const scale = `(SUM(${down(5)})-SUMPRODUCT(${down(5)},${down(5)})/SUM(${down(5)}))`;
  sheet.formula(
    spread,
    1,
    `IF(${scale}>0,MAX(0,(${sheet.at(heterogeneity, 1)}-${subjects.length - 1})/${scale}),0)`,
  );
  sheet.formula(own, 1, `1/SUM(${down(6)})+AVERAGE(${down(3)})`);
  sheet.line(own + 1, ['what they did together when nobody touched them, squared', together.seen]);
  sheet.line(own + 2, ['how far that is trusted', together.trust]);
  const [v, seen, trust] = [own, own + 1, own + 2].map((at) => sheet.at(at, 1)) as [string, string, string];
  return [
    `SUMPRODUCT(${down(6)},${down(1)})/SUM(${down(6)})`,
    `SQRT(MAX(${v},${trust}*${seen}+(1-${trust})*${v}))`,
  ];
}

/** What a cell is to a spreadsheet: its value, or its formula. */
export function plainCell(cell: WorkSheet['rows'][number][number]): string | number | null {
  if (cell === null || typeof cell !== 'object') return cell;
  if ('day' in cell) return serialOf(cell.day);
  return 'heading' in cell ? cell.heading : `=${cell.formula}`;
}
