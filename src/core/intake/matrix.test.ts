import fc from 'fast-check';
import { addDays, asDay, isoDay } from '../calendar/day';
import { headOfDays, matrixOf, rowsOfDays, VALUE_COLUMN } from './matrix';

test('days are found among the names of a head, with what each holds', () => {
  const matrix = matrixOf([
    'Query',
    'Country',
    '2026-11-01 clicks',
    'Position (2026-11-01)',
    'Nov 2, 2026 clicks',
  ])!;
  expect(headOfDays(matrix)).toEqual(['Query', 'Country', 'date', 'clicks', 'Position']);
  expect(rowsOfDays(['hive', 'at', '3', '4.5', '2'], matrix, 5)).toEqual([
    ['hive', 'at', '2026-11-01', '3', '4.5'],
    ['hive', 'at', 'Nov 2, 2026', '2', ''],
  ]);
});

test.each([
  [['Query', '2026-11-01'], 'one day'],
  [['2026-11-01', '2026-11-02'], 'nothing beside the days'],
  [['date', 'page', 'clicks', 'impressions'], 'no days'],
  [['a', 'b', 'c', 'd', 'e', 'f', '2026-11-01', '2026-11-02'], 'too much beside the days'],
])('%j is no table of days: %s', (head) => expect(matrixOf(head)).toBeNull());

test('every filled cell becomes one row, with its day', () => {
  const cell = fc.oneof(fc.constant(''), fc.nat(1000).map(String));
  fc.assert(
    fc.property(fc.array(cell, { minLength: 2, maxLength: 60 }), (cells) => {
      const days = cells.map((_, i) => isoDay(addDays(asDay(20_000), i)));
      const matrix = matrixOf(['Query', ...days])!;
      expect(matrix.measures).toEqual([VALUE_COLUMN]);
      expect(rowsOfDays(['hive', ...cells], matrix, cells.length + 1)).toEqual(
        cells.flatMap((value, i) => (value === '' ? [] : [['hive', days[i]!, value]])),
      );
    }),
  );
});

test('a row of another length than the head is refused, also where it is as long as the rows that are made', () => {
  const matrix = matrixOf(['Query', '2026-11-01', '2026-11-02', '2026-11-03'])!;
  expect(rowsOfDays(['hive', '7', '7'], matrix, 4)).toEqual([['hive', '3 cells under 4 columns', '']]);
});
