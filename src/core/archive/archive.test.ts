import fc from 'fast-check';
import { emptyFacts, type Facts } from '../facts/facts';
import { pieceOf } from '../facts/pack';
import {
  BadFigures,
  figuresCells,
  figuresHead,
  figuresLines,
  piecesOfLines,
  readPiece,
  textCell,
} from './figuresCsv';
import { deskKeyRenumbered, readingOfRenumbered, renumbered, type Renumber } from './numbering';

const plusTen: Renumber = (_kind, number) => number + 10;
const nothing: Renumber = () => null;

test('numbers are replaced where paths lead, and nowhere else', () => {
  const was = {
    id: 7,
    note: 7,
    pages: [{ id: 3, address: 'a' }, { id: 4 }],
    parts: [{ page: null }],
    followsId: null,
  };
  const paths = [
    ...([
      ['id', 'change'],
      ['pages.*.id', 'page'],
      ['parts.*.page.id', 'page'],
    ] as const),
    ...([
      ['followsId', 'change'],
      ['missing.*.id', 'page'],
    ] as const),
  ];
  expect(renumbered(was, paths, plusTen)).toEqual({
    ...was,
    id: 17,
    pages: [{ id: 13, address: 'a' }, { id: 14 }],
  });
  expect(renumbered([5, 6], [['*', 'page']], plusTen)).toEqual([15, 16]);
  // What is gone is 0, and stays so.
  expect(renumbered([5], [['*', 'page']], nothing)).toEqual([0]);
  expect(renumbered([0], [['*', 'page']], plusTen)).toEqual([0]);
});

test('keys of the desk name things of several kinds', () => {
  const said: string[] = [];
  const note: Renumber = (kind, number) => {
    said.push(kind);
    return number + 1;
  };
  const keys = ['review-due/7', 'round-due/3/read', 'routine-due/2/20000', 'unlogged/9', 'fell-back/4'];
  expect(keys.map((key) => deskKeyRenumbered(key, note))).toEqual([
    ...['review-due/8', 'round-due/4/read', 'routine-due/3/20000', 'unlogged/10', 'fell-back/5'],
  ]);
  expect(said).toEqual(['change', 'round', 'routine', 'snapshot', 'page']);
  expect(readingOfRenumbered('20668 20695 20699 20726 9 11', plusTen)).toBe('20668 20695 20699 20726 19 21');
});

test('texts that a spreadsheet would run are harmless, and come back', () => {
  expect(textCell('=1+1')).toBe("'=1+1");
  expect(textCell("'quoted")).toBe("''quoted");
  expect(textCell('plain, with "quotes"')).toBe('"plain, with ""quotes"""');
});

const QUERIES = ['', '=cmd()', "'apostrophe", 'with, comma', 'line\nbreak', 'quote " in it', 'bee smoker'];
const COUNTRIES = ['', 'zz', 'aa'];
const names = {
  query: (n: number) => textCell(QUERIES[n]!),
  country: (n: number) => textCell(COUNTRIES[n]!),
};
const numbers = {
  query: (text: string) => (QUERIES.includes(text) ? QUERIES.indexOf(text) : null),
  country: (text: string) => COUNTRIES.indexOf(text),
};

/** Rows of one piece, each key once, in the order of the store. */
const facts = fc
  .uniqueArray(
    fc.record({
      query: fc.nat({ max: QUERIES.length - 1 }),
      day: fc.integer({ min: 20_000, max: 20_031 }).filter((day) => pieceOf(day) === pieceOf(20_000)),
      device: fc.nat({ max: 4 }),
      country: fc.nat({ max: 2 }),
      clicks: fc.nat({ max: 1e9 }),
      impressions: fc.nat({ max: 1e9 }),
      positionSum: fc.oneof(fc.constant(NaN), fc.double({ min: 0, max: 1e12, noNaN: true })),
      taken: fc.integer({ min: 20_000, max: 21_000 }),
    }),
    { minLength: 1, selector: ({ query, day, device, country }) => `${query}/${day}/${device}/${country}` },
  )
  .map((rows) => {
    rows.sort((a, b) => a.query - b.query || a.day - b.day || a.device - b.device || a.country - b.country);
    const facts = emptyFacts(rows.length, 3);
    rows.forEach((row, i) => {
      facts.query[i] = row.query;
      facts.day[i] = row.day;
      facts.device[i] = row.device;
      facts.country[i] = row.country;
      // -0 is no figure, and not kept apart from 0.
      [row.clicks, row.impressions, row.positionSum + 0].forEach((value, v) => (facts.values[v]![i] = value));
    });
    return { facts, vintage: Int32Array.from(rows, ({ taken }) => taken) };
  });

const plain = (one: Facts) => [one.query, one.day, one.device, one.country, ...one.values].map((c) => [...c]);

test('figures come back from CSV to the last bit', () => {
  fc.assert(
    fc.property(facts, fc.boolean(), ({ facts: given, vintage }, folded) => {
      const piece = { facts: given, vintage: folded ? vintage : null, piece: pieceOf(20_000) };
      const csv = figuresLines(piece, 'page_query_day', folded, textCell('https://a.example/,x'), names);
      const cells = figuresCells(csv);
      expect(cells).toHaveLength(given.rows);
      expect(piecesOfLines(cells, 'page_query_day', pieceOf)).toEqual([
        { address: 'https://a.example/,x', piece: pieceOf(20_000), from: 0, to: given.rows },
      ]);
      const read = readPiece(cells, 'page_query_day', folded, numbers);
      expect(plain(read.facts)).toEqual(plain(given));
      expect(read.vintage && [...read.vintage]).toEqual(folded ? [...vintage] : null);
    }),
  );
});

test('rows that cannot be are refused with what is wrong', () => {
  const width = figuresHead('page_day', false).length;
  const row = (over: Record<number, string>) => {
    const cells = ['https://a.example/', '2026-09-14', '', '', '', '1', '10', '2.00', '20'];
    expect(cells).toHaveLength(width);
    return cells.map((cell, i) => over[i] ?? cell);
  };
  const read = (...lines: string[][]) => {
    try {
      readPiece(lines, 'page_day', false, numbers);
      return null;
    } catch (error) {
      expect(error).toBeInstanceOf(BadFigures);
      return [(error as BadFigures).row, (error as Error).message];
    }
  };
  expect(read(row({}))).toBeNull();
  expect(read(row({}), row({ 1: '2026-02-30' }))).toEqual([1, '“2026-02-30” is no day.']);
  expect(read(row({ 2: 'unknown' }))).toEqual([0, 'Its query is none of those of the archive.']);
  expect(read(row({ 3: 'toaster' }))).toEqual([0, 'Its device is none that there is.']);
  expect(read(row({ 5: 'many' }))).toEqual([0, '“many” is no number.']);
  expect(read(row({ 5: '-1' }))).toEqual([0, '“-1” is no number.']);
  expect(read(row({ 5: 'Infinity' }))).toEqual([0, '“Infinity” is no number.']);
  expect(read(row({}).slice(1))?.[1]).toBe('It has 8 cells, not 9.');
  expect(read(row({ 4: 'zz' }), row({ 4: 'aa' }), row({ 4: 'zz' }))?.[1]).toBe(
    'The same row stands there twice.',
  );
});
