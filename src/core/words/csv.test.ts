import fc from 'fast-check';
import Papa from 'papaparse';
import { csvOf } from './csv';

test.each([
  ['=1+1', "'=1+1"],
  ['=1+1\nsecond line', "'=1+1\nsecond line"],
  ['\n=1+1', "'\n=1+1"],
  [' @SUM(A1)', "' @SUM(A1)"],
  ['＝1+1', "'＝1+1"],
  ['-12%', '-12%'],
  ['+3.5', '+3.5'],
  ['-cmd', "'-cmd"],
  ['plain = text', 'plain = text'],
])('the text %j is saved as %j', (text, saved) => {
  const [row] = Papa.parse<string[]>(csvOf([{ note: text }])).data.slice(1);
  expect(row).toEqual([saved]);
});

test('names of columns are guarded too, absent values are empty, numbers stay numbers', () => {
  expect(csvOf([{ '=x': -5, b: null }])).toBe("'=x,b\r\n-5,");
  expect(csvOf([])).toBe('');
});

test('whatever a cell holds, it reads back as it was or with an apostrophe, and never begins as a formula', () => {
  const odd = fc.string({
    unit: fc.constantFrom('=', '+', '-', '@', '\n', '\r', '\t', ' ', '"', ',', 'a', '1'),
    maxLength: 8,
  });
  fc.assert(
    fc.property(fc.array(fc.tuple(odd, odd), { minLength: 1 }), (cells) => {
      const rows = cells.map(([a, b]) => ({ a, b }));
      const back = Papa.parse<string[]>(csvOf(rows), { newline: '\r\n' }).data.slice(1);
      expect(back.map((row) => row.map((cell) => cell.replace(/^'/, '')))).toEqual(cells);
      for (const cell of back.flat()) expect(/^\s*[=+\-@](?!\d+%?$)/.test(cell)).toBe(false);
    }),
  );
});
