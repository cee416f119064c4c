import { readFileSync } from 'node:fs';
import { create } from 'fontkit';
import type { PageEvidence } from '../model/evidence';
import { differencesBetween, isWork, kindsOf } from './differences';
import { findingsOn } from './findings';
import { titlePixels } from './titleWidth';

const PAGE: PageEvidence = {
  status: 200,
  finalAddress: 'https://www.quillow-bees.example/guides/fuel/',
  title: 'Fuel for a bee smoker',
  description: 'What burns slowly.',
  canonical: null,
  robots: [],
  headings: [{ level: 1, text: 'Fuel' }],
  structuredData: [],
  words: 3,
  text: 'Fuel\nPine needles burn slowly.',
  links: [],
  images: 0,
  imagesWithoutAlt: [],
  encoding: 'UTF-8',
  misfits: 0,
};

const codes = (page: Partial<PageEvidence>, sameTitle: string[] = []) =>
  findingsOn({ ...PAGE, ...page }, { year: 2026, sameTitle }).map(({ code }) => code);
const headings = (...levels: number[]) => ({
  headings: levels.map((level) => ({ level, text: `T${level}` })),
});

describe('findingsOn', () => {
  test('a page in order has none', () => expect(codes({})).toEqual([]));

  // The HTML standard, 4.3.11: the example that conforms (Apples, Taste, Sweet, Color), and what it forbids.
  test.each([
    [[1, 2, 3, 2], []],
    [[2, 3], ['no-h1']],
    [[], ['no-h1']],
    [[1, 3], ['level-skipped']],
    [[1, 2, 3, 4, 5, 6, 2, 1], ['several-h1']],
    [[2, 1, 2], []],
    [
      [1, 1, 4],
      ['several-h1', 'level-skipped'],
    ],
  ])('headings of the levels %j', (levels, found) => {
    expect(codes(headings(...levels))).toEqual(found);
  });

  test('an H1 without text is none', () => {
    expect(codes({ headings: [{ level: 1, text: '' }] })).toEqual(['no-h1']);
  });

  test('titles: missing, doubled, too long in characters, too long in pixels alone', () => {
    expect(codes({ title: null })).toEqual(['title-missing']);
    expect(codes({}, ['/guides/other/'])).toEqual(['title-doubled']);
    expect(codes({ title: 'il '.repeat(21).trim() })).toEqual(['title-too-long']);
    expect(codes({ title: 'W'.repeat(33) })).toEqual(['title-too-long']);
    // Sixty-one code points, but fewer characters as a reader counts them.
    expect(codes({ title: `${'e\u0301'.repeat(30)}x` })).toEqual([]);
  });

  test('years that have passed, but not those that are meant to stay', () => {
    expect(codes({ title: 'Best hives of 2024' })).toEqual(['year-passed']);
    expect(codes({ title: 'Best hives of 2026' })).toEqual([]);
    expect(codes({ title: 'Bee yard since 1987' })).toEqual([]);
    expect(codes({ description: 'Model 12024, 2019.' })).toEqual(['year-passed']);
    expect(codes({ title: 'Frames 1987-2024 compared' })).toEqual([]);
  });

  test('what is served, indexed, broken or misread', () => {
    expect(codes({ status: 404 })).toEqual(['not-served']);
    expect(codes({ robots: ['noindex'] })).toEqual(['not-indexed']);
    expect(codes({ canonical: 'https://www.quillow-bees.example/' })).toEqual(['canonical-elsewhere']);
    expect(codes({ structuredData: [{ types: [], problem: 'It is not JSON.' }] })).toEqual([
      'structured-data-broken',
    ]);
    expect(codes({ misfits: 2 })).toEqual(['wrong-encoding']);
    expect(codes({ description: null })).toEqual(['description-missing']);
  });
});

describe('titlePixels', () => {
  test('measures as the typeface does', () => {
    const font = create(readFileSync('node_modules/@fontsource/arimo/files/arimo-latin-400-normal.woff2'));
    if (!('layout' in font)) throw new Error('The typeface is a collection.');
    for (const text of [
      'How to light a bee smoker',
      'Gifts for beekeepers – “wrapped”',
      'iiiiii',
      'WWWWWW',
      '€ 9.50',
    ]) {
      const run = font.layout(text, { kern: false });
      expect(titlePixels(text)).toBe(Math.round((run.advanceWidth / font.unitsPerEm) * 20));
    }
  });

  // The widths of the usual sans serif, per 1000: A 667, i 222, space 278 (Adobe's metrics of Helvetica, from memory).
  test('has the usual metrics', () => {
    expect(titlePixels('A'.repeat(50))).toBe(667);
    expect(titlePixels('i'.repeat(50))).toBe(222);
    expect(titlePixels(' '.repeat(50))).toBe(278);
  });

  test('ideographs fill their square, marks take no room', () => {
    expect(titlePixels('蜂蜜')).toBe(40);
    expect(titlePixels('e\u0301')).toBe(titlePixels('e'));
  });
});

describe('differencesBetween', () => {
  test('nothing differs from itself', () => expect(differencesBetween(PAGE, PAGE)).toEqual([]));

  test('each difference names the kind of change that makes it', () => {
    const after: PageEvidence = {
      ...PAGE,
      title: 'Fuel',
      headings: [{ level: 1, text: 'Fuel, dry' }],
      text: 'Fuel, dry\nPine needles burn slowly.\nSo does felt.',
      robots: ['noindex'],
      links: ['https://www.quillow-bees.example/'],
      structuredData: [{ types: ['HowTo'], problem: null }],
    };
    const found = differencesBetween(PAGE, after);
    expect(found).toEqual([
      { aspect: 'title', kind: 'title-rewrite', before: 'Fuel for a bee smoker', after: 'Fuel' },
      { aspect: 'headings', kind: 'headings', before: 'H1 Fuel', after: 'H1 Fuel, dry' },
      { aspect: 'text', kind: 'body-copy', before: null, after: 'So does felt.' },
      { aspect: 'structuredData', kind: 'structured-data', before: null, after: 'HowTo' },
      { aspect: 'robots', kind: 'indexing-directives', before: null, after: 'noindex' },
      { aspect: 'links', kind: 'internal-links', before: null, after: 'https://www.quillow-bees.example/' },
    ]);
    expect(kindsOf(found)).toBe(
      'Title rewrite, Headings, Body copy, Structured data, Indexing directives, Internal links',
    );
  });

  test('a page that counts or dates itself was not worked on', () => {
    const dated = (text: string) =>
      differencesBetween({ ...PAGE, text: `Today is ${text}.` }, { ...PAGE, text: 'Today is 24 November.' });
    expect(dated('23 November').map(isWork)).toEqual([false]);
    expect(dated('a good day to look after the bees').map(isWork)).toEqual([true]);
  });
});
