import { packed, unpacked } from './packed';

test('what was packed comes out as it went in', () => {
  const lines = [
    { id: 7, title: 'Wicks “as a table” </script>', height: null, words: ['a', 'b'] },
    { id: 8, title: '', height: -0.5, words: [] },
  ];
  expect(unpacked(packed(lines))).toEqual(lines);
  expect(unpacked(packed([]))).toEqual([]);
});

test('the names of the fields are said once', () => {
  expect(packed([{ id: 7 }, { id: 8 }])).toBe('[["id"],[7],[8]]');
});
