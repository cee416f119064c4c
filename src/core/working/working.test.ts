import { HyperFormula } from 'hyperformula';
import { DAY, daysOf, seriesOf, type DayOf } from '../../../tests/support/readingInput';
import { asDay } from '../calendar/day';
import { EffectEngine, type ComparisonRequest } from '../effect/engine';
import { History } from '../history/history';
import { MEASURES, type Measure } from '../measures/registry';
import { letters, serialOf } from './workSheet';
import { plainCell, workingSheets } from './workbook';

const [FIRST, LAST] = [DAY - 250, DAY + 60];

/** Pages with rhythms, sizes and ranks of their own; page 10 and 11 were lifted, page 14 is small and new. */
const page =
  (i: number): DayOf =>
  (day) => {
    if (i === 4 && day < DAY - 60) return { clicks: 0, impressions: 0, position: 5 };
    const lift = i < 2 && day >= DAY ? 1.3 : 1;
    const at = lift * (1 + 0.08 * Math.sin(day / (7 + i) + i) + 0.05 * Math.cos(day * (i + 1)));
    return {
      clicks: Math.round((i === 4 ? 2 : 30 + 5 * i) * at),
      impressions: Math.round(700 * at + 40 * i),
      position: 4 + (i % 5) + Math.sin(day / 11 + i),
    };
  };
const ids = Array.from({ length: 14 }, (_, i) => 10 + i);
const covered = [...daysOf(FIRST, LAST)].filter((day) => day % 53 !== 0);
const history = new History(
  asDay(FIRST),
  LAST - FIRST + 1,
  ids.map((id, i) => seriesOf(id, FIRST, LAST, page(i))),
  covered,
);
const engine = new EffectEngine(
  history,
  { of: ids.map((_, i) => i % 2), count: 2 },
  [
    { day: DAY, pages: [{ id: 10 }, { id: 11 }] },
    { day: asDay(DAY - 90), pages: [{ id: 10 }] },
    { day: asDay(DAY - 45), pages: [{ id: 16 }] },
  ],
  asDay(LAST),
);
const asked = (over: Partial<ComparisonRequest> = {}): ComparisonRequest => ({
  ...{ ids: [10], day: DAY, horizon: { days: 28, settlingDays: 3 } },
  ...over,
});

function sheetsOf(measure: Measure, of: ComparisonRequest) {
  const working = engine.working(of, measure)!;
  const from = FIRST;
  const daily = {
    firstDay: from,
    covered: Array.from({ length: LAST - from + 1 }, (_, i) => covered.includes(asDay(from + i))),
    of: (column: keyof History['sums'], id: number) => {
      const row = history.row(id)!;
      const sums = history.sums[column];
      return Array.from(
        { length: LAST - from + 1 },
        (_, i) => sums[(i + 1) * history.rows + row]! - sums[i * history.rows + row]!,
      );
    },
  };
  const sheets = workingSheets(working, daily, ['About'], (id) => `/page-${id}/`);
  const plain = Object.fromEntries(
    sheets.map(({ name, rows }) => [name, rows.map((row) => row.map(plainCell))]),
  );
  return { working, book: HyperFormula.buildFromSheets(plain, { licenseKey: 'gpl-v3' }), plain };
}

/** What stands in the reading's sheet beside a name, second column. */
function valueOf(book: HyperFormula, name: string): number {
  const sheet = book.getSheetId('reading')!;
  const row = book.getSheetValues(sheet).findIndex(([first]) => first === name);
  return book.getCellValue({ sheet, row, col: 1 }) as number;
}

describe.each(MEASURES)('%s, worked out by a spreadsheet', (measure) => {
  test.each([
    ['one page against the yardstick', asked()],
    ['two pages together', asked({ ids: [10, 11] })],
    ['a small page, new to the site', asked({ ids: [14] })],
    ['a chosen control with weights', asked({ control: { ids: [12, 13, 15, 17], weights: [1, 0.5, 1, 1] } })],
  ])('%s', (_name, of) => {
    const { working, book } = sheetsOf(measure, of);
    const compared = engine.compare(of)!.effects[measure]!;
    expect(working.estimate).toEqual(compared);
    // The program keeps its weekly panels in single precision.
    expect(valueOf(book, 'net, a logarithm')).toBeCloseTo(compared.net, 5);
    expect(valueOf(book, 'standard error')).toBeCloseTo(compared.standardError, 5);
    expect(valueOf(book, 'low end, a logarithm')).toBeCloseTo(compared.low, 5);
    expect(valueOf(book, 'high end, a logarithm')).toBeCloseTo(compared.high, 5);
  });
});

test('no cell fails, and the net is made by formulas from the daily figures on', () => {
  const { book, plain } = sheetsOf('clicks', asked({ ids: [10, 11] }));
  for (const name of book.getSheetNames())
    for (const row of book.getSheetValues(book.getSheetId(name)!))
      for (const cell of row)
        expect([name, typeof cell === 'object' && cell !== null]).toEqual([name, false]);
  // A click more on the last day after moves the net.
  const before = valueOf(book, 'net, a logarithm');
  const clicks = plain.clicks!;
  const day = clicks.findIndex(([first]) => first === serialOf(DAY + 30));
  const at = { sheet: book.getSheetId('clicks')!, row: day, col: clicks[1]!.indexOf('/page-10/') };
  book.setCellContents(at, (book.getCellValue(at) as number) + 100);
  expect(valueOf(book, 'net, a logarithm')).toBeGreaterThan(before + 0.02);
});

test.each(['clicks', 'rank', 'ctr'] as const)('%s over another span, changed in the sheet', (measure) => {
  // Against a control that was chosen no group counts, so that nothing of the net hangs on what was learned over the span.
  const control = { ids: [12, 13, 15, 17] };
  const { book } = sheetsOf(measure, asked({ control }));
  const sheet = book.getSheetId('spans')!;
  const row = (name: string) => book.getSheetValues(sheet).findIndex(([first]) => first === name);
  book.setCellContents({ sheet, row: row('days compared'), col: 1 }, 21);
  book.setCellContents({ sheet, row: row('settling days, left out'), col: 1 }, 7);
  const there = engine.working(asked({ control, horizon: { days: 21, settlingDays: 7 } }), measure)!;
  expect(valueOf(book, 'net, a logarithm')).toBeCloseTo(there.estimate.net, 5);
});

test('columns and days are called as spreadsheets call them', () => {
  expect([0, 25, 26, 701, 702].map(letters)).toEqual(['A', 'Z', 'AA', 'ZZ', 'AAA']);
  // 1 January 2026.
  expect(serialOf(20_454)).toBe(46_023);
});
