import { strToU8, zipSync } from 'fflate';
import writeExcel from 'write-excel-file/node';
import { englishReader } from '../../core/wording/englishReader';
import { entitiesOf } from '../../core/wording/entities';
import { readResults } from './readResults';

const bytes = (text: string) => strToU8(text);

test('text, a saved page and a spreadsheet are told by what they begin with', async () => {
  expect((await readResults(bytes('Wax\nhttps://a.example/'))).results).toHaveLength(1);
  const page = await readResults(
    bytes('<!doctype html><h3><a href="https://a.example/">Wax</a></h3><h3>Why wax?</h3>'),
  );
  expect([page.results.length, page.asked]).toEqual([1, ['Why wax?']]);
  const sheet = await writeExcel([
    ['Title', 'Address'].map((value) => ({ value })),
    ['Wax', 'https://a.example/'].map((value) => ({ value })),
  ]).toBuffer();
  expect((await readResults(new Uint8Array(sheet))).results).toMatchObject([{ title: 'Wax', rank: 1 }]);
});

test('rubbish is refused in a sentence', async () => {
  expect((await readResults(bytes('\u0000\u0001'))).problem).toMatch(/neither text/);
  expect((await readResults(zipSync({ 'a.txt': bytes('x') }))).problem).toMatch(/no spreadsheet/);
  expect((await readResults(zipSync({ 'a.txt': new Uint8Array(60_000_000) }))).problem).toMatch(/swells/);
  expect((await readResults(new Uint8Array(6_000_000))).problem).toMatch(/larger than 5 MB/);
});

test('years, numbers, formats and names are read from English titles', async () => {
  const read = await englishReader();
  const found = entitiesOf(
    [
      { rank: 1, text: 'Winter feeding guide 2026: what Anna Hartwell does' },
      { rank: 2, text: 'A guide to fondant for 12% less' },
      { rank: 3, text: 'Winter feeding 2026' },
    ],
    read,
    'Feeding guide',
  );
  const of = (kind: string) =>
    found.filter((one) => one.kind === kind).map(({ text, results }) => [text, results]);
  expect(of('format')).toEqual([['guide', 2]]);
  expect(of('year')).toEqual([['2026', 2]]);
  expect(of('name')).toEqual([['Anna Hartwell', 1]]);
  expect(of('share')).toEqual([['12%', 1]]);
  expect(found.find(({ text }) => text === 'guide')!.inTitle).toBe(true);
});
