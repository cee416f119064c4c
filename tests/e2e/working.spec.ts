import { unzipSync, strFromU8 } from 'fflate';
import { HyperFormula } from 'hyperformula';
import { parseFragment } from 'parse5';
import { expect, test } from './support';

type Cell = string | number | null;

const unescaped = (text: string) => {
  const [node] = parseFragment(text).childNodes;
  return node && 'value' in node ? node.value : '';
};

/** The sheets of a spreadsheet file as it is written: values, and formulas with their sign. */
function sheetsOf(file: Uint8Array): Record<string, Cell[][]> {
  const parts = unzipSync(file);
  const text = (name: string) => (parts[name] ? strFromU8(parts[name]) : '');
  const shared = [...text('xl/sharedStrings.xml').matchAll(/<si>.*?<t[^>]*>([^<]*)<\/t>.*?<\/si>/gs)].map(
    ([, value]) => unescaped(value!),
  );
  const names = [...text('xl/workbook.xml').matchAll(/<sheet [^>]*name="([^"]*)"/g)].map(([, name]) =>
    unescaped(name!),
  );
  return Object.fromEntries(
    names.map((name, i) => {
      const rows: Cell[][] = [];
      const cells = text(`xl/worksheets/sheet${i + 1}.xml`).matchAll(
        /<c r="([A-Z]+)(\d+)"([^>]*?)(?:\/>|>(.*?)<\/c>)/gs,
      );
      for (const [, letters, number, attributes, inner = ''] of cells) {
        const column = [...letters!].reduce((sum, letter) => sum * 26 + letter.charCodeAt(0) - 64, 0) - 1;
        const row = (rows[Number(number) - 1] ??= []);
        const formula = /<f[^>]*>([^<]*)<\/f>/.exec(inner)?.[1];
        const value = /<v>([^<]*)<\/v>/.exec(inner)?.[1];
        const inline = /<t[^>]*>([^<]*)<\/t>/.exec(inner)?.[1];
        row[column] =
          formula !== undefined
            ? `=${unescaped(formula)}`
            : /t="s"/.test(attributes!)
              ? shared[Number(value)]!
              : value !== undefined
                ? Number(value)
                : inline !== undefined
                  ? unescaped(inline)
                  : null;
      }
      return [name, Array.from(rows, (row) => Array.from(row ?? [], (cell) => cell ?? null))];
    }),
  );
}

function valueOf(book: HyperFormula, name: string): number {
  const sheet = book.getSheetId('reading')!;
  const row = book.getSheetValues(sheet).findIndex(([first]) => first === name);
  return book.getCellValue({ sheet, row, col: 1 }) as number;
}

test('a reading comes with its working, and another program arrives at the same', async ({
  page,
  request,
}) => {
  const changes = (await (await request.get('/api/v1/sites/1/changes')).json()) as {
    id: number;
    title: string;
  }[];
  const idOf = (title: RegExp) => changes.find((one) => title.test(one.title))!.id;
  const id = idOf(/^Shorter title on the smoker guide/);
  await page.goto(`/sites/1/ledger/${id}?windowDays=21`);
  const saving = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Its working' }).click();
  const download = await saving;
  expect(download.suggestedFilename()).toBe('Shorter title on the smoker guide, working.xlsx');
  expect(download.url()).toContain('windowDays=21');

  // One page, several pages of a round, and a reading narrowed to a search.
  const asked: [id: number, query: string, measure: 'appeal' | 'clicks' | 'ctr' | 'impressions'][] = [
    [id, 'windowDays=21', 'ctr'],
    [idOf(/^Summer titles: the answer in front: first half/), '', 'appeal'],
    [id, 'query=bee smoker', 'clicks'],
  ];
  for (const [change, query, measure] of asked) {
    const reading = (await (await request.get(`/api/v1/changes/${change}/reading?${query}`)).json()) as {
      net: Record<string, { ratio: number; low: number; high: number }>;
    };
    const file = await request.get(`/api/v1/changes/${change}/working?measure=${measure}&${query}`);
    expect(file.status()).toBe(200);
    const sheets = sheetsOf(await file.body());
    const book = HyperFormula.buildFromSheets(sheets, { licenseKey: 'gpl-v3' });
    const net = reading.net[measure]!;
    expect(valueOf(book, 'net, as a ratio')).toBeCloseTo(net.ratio, 4);
    expect(valueOf(book, 'low end, as a ratio')).toBeCloseTo(net.low, 4);
    expect(valueOf(book, 'high end, as a ratio')).toBeCloseTo(net.high, 4);
    // They are formulas, down to the sums of days.
    const formulas = Object.values(sheets)
      .flat(2)
      .filter((cell) => typeof cell === 'string' && cell.startsWith('='));
    expect(formulas.filter((cell) => String(cell).includes('SUMIFS')).length).toBeGreaterThan(100);
  }
  const waiting = await request.get(`/api/v1/changes/${idOf(/^Gift sets: last posting day/)}/working`);
  expect([200, 409]).toContain(waiting.status());
});
