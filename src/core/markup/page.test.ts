import { readFileSync } from 'node:fs';
import path from 'node:path';
import fc from 'fast-check';
import { characterCount, wordCount } from './graphemes';
import { readPage } from './page';
import { readStructuredData } from './structuredData';

const ADDRESS = 'https://www.quillow-bees.example/guides/lighting-a-bee-smoker/';
const saved = (name: string) => readFileSync(path.join('tests', 'pages', name), 'utf8');

function read(html: string, headers: Record<string, string> = {}) {
  const served = { html, status: 200, finalAddress: ADDRESS, encoding: 'UTF-8' };
  return readPage({ ...served, header: (name) => headers[name] });
}

describe('readPage', () => {
  test('keeps what matters of a saved page', async () => {
    const page = await read(saved('guide.html'), {
      'x-robots-tag': 'max-image-preview: large, somebot: noindex, nofollow',
    });
    expect(page).toMatchObject({
      status: 200,
      title: 'How to light a bee smoker and keep it going',
      description: 'Dry fuel, a slow start, and the three mistakes that put it out.',
      canonical: 'https://www.quillow-bees.example/guides/lighting-a-bee-smoker/',
      robots: ['max-snippet:120', 'noarchive', 'max-image-preview: large'],
      images: 3,
      imagesWithoutAlt: ['/pictures/fuel.jpg'],
      misfits: 0,
    });
    expect(page.headings).toEqual([
      { level: 1, text: 'Lighting a bee smoker' },
      { level: 2, text: 'What you need' },
      { level: 4, text: 'When it goes out' },
      { level: 2, text: 'Visit us' },
    ]);
    expect(page.text.split('\n')).toEqual([
      'Lighting a bee smoker',
      'A smoker calms the bees, because they take it for a fire.',
      'Use dry fuel, such as pine needles, or these.',
      'What you need',
      'Dry fuel',
      'A lighter',
      'When it goes out',
      'Start again. Others say the same. Write',
    ]);
    expect(page.words).toBe(43);
    expect(page.links).toEqual([
      'https://www.quillow-bees.example/',
      'https://www.quillow-bees.example/shop/',
      'https://www.quillow-bees.example/guides/',
      'https://www.quillow-bees.example/shop/fuel/',
      'https://quillow-bees.example/guides/fuel/',
    ]);
    expect(page.structuredData[0]).toEqual({
      types: ['HowTo', 'HowToStep', 'Article', 'TechArticle'],
      problem: null,
    });
    expect(page.structuredData[1]!.problem).toMatch(/^It is not JSON: /);
  });

  // How a browser reads it by the HTML standard, 13.2: a heading inside a heading of the same level ends that, what a
  // table cannot hold goes before it, what comes after the body still belongs to it.
  test('reads broken HTML as a browser does', async () => {
    const page = await read(saved('broken.html'));
    expect(page.title).toBe('Frames & foundation 2019');
    expect(page.headings).toEqual([
      { level: 1, text: 'Frames' },
      { level: 1, text: 'Foundation' },
      { level: 2, text: 'In a table' },
      { level: 6, text: 'After the end' },
    ]);
    expect(page.links).toEqual([
      'https://www.quillow-bees.example/shop/a/%3Cb%3E',
      'https://www.quillow-bees.example/shop/b/',
    ]);
  });

  test('an empty page says nothing', async () => {
    expect(await read('')).toMatchObject({
      title: null,
      description: null,
      headings: [],
      words: 0,
      text: '',
    });
  });

  test('a canonical address may stand in a header', async () => {
    const link = '<https://www.quillow-bees.example/a/>; rel="preload", </b/>; rel="canonical"';
    expect((await read('<p>', { link })).canonical).toBe('https://www.quillow-bees.example/b/');
  });

  test('never fails on what it is given', async () => {
    const piece = fc.constantFrom(
      '<h1',
      '<main>',
      '</p>',
      '<a href="',
      '">',
      '<svg>',
      '<title>',
      'x ',
      '&',
      '<table>',
      '<!--',
    );
    await fc.assert(
      fc.asyncProperty(fc.array(fc.oneof(piece, fc.string())), async (pieces) => {
        const page = await read(pieces.join(''));
        expect(page.words).toBe(wordCount(page.text));
        expect(page.headings.every(({ level }) => level >= 1 && level <= 6)).toBe(true);
      }),
    );
  });

  test('is not led astray by depth', async () => {
    const page = await read(`${'<div>'.repeat(4000)}<h2>Deep</h2>${'<span>'.repeat(4000)}end`);
    expect(page.headings).toEqual([{ level: 2, text: 'Deep' }]);
    expect(page.text).toBe('Deep\nend');
  });
});

describe('readStructuredData', () => {
  const types = async (data: unknown) => readStructuredData(JSON.stringify(data));

  // JSON-LD 1.1 (W3C Recommendation, 16 July 2020); numbers of its sections beside each.
  test.each([
    ['3.1 the context inline', { '@context': { name: 'https://schema.org/name' }, name: 'Quill' }, []],
    [
      '3.5 several types',
      { '@context': 'https://schema.org/', '@type': ['Product', 'Offer'] },
      ['Product', 'Offer'],
    ],
    [
      '4.1.2 a vocabulary',
      { '@context': { '@vocab': 'https://schema.org/' }, '@type': 'Recipe' },
      ['Recipe'],
    ],
    [
      '4.1.5 an alias of @type',
      { '@context': ['https://schema.org', { kind: '@type' }], kind: 'Event' },
      ['Event'],
    ],
    [
      '4.9 a graph',
      { '@context': 'http://schema.org', '@graph': [{ '@type': 'A' }, { '@type': 'B' }] },
      ['A', 'B'],
    ],
    [
      'full addresses need no context',
      [{ '@type': 'https://words.example/Hive' }],
      ['https://words.example/Hive'],
    ],
  ])('%s', async (_section, data, found) => {
    expect(await types(data)).toEqual({ types: found, problem: null });
  });

  test.each([
    ['no context', { '@type': 'Article', name: 'x' }, /without a context/],
    [
      'a type that is a number (5.1.2, invalid type value)',
      { '@context': 'https://schema.org', '@type': 7 },
      /^It is not JSON-LD/,
    ],
    [
      'an @id that is a list (invalid @id value)',
      { '@context': 'https://schema.org', '@id': ['a'] },
      /^It is not JSON-LD/,
    ],
    [
      'an @value with a type beside it (invalid value object)',
      { '@context': 'https://schema.org', name: { '@value': 1, '@id': 'a' } },
      /^It is not JSON-LD/,
    ],
    [
      'a context elsewhere',
      { '@context': 'https://words.example/context', '@type': 'Hive' },
      /is not known here/,
    ],
    ['a bare word', 'Article', /neither an object nor a list/],
  ])('%s', async (_case, data, problem) => {
    expect((await types(data)).problem).toMatch(problem);
  });

  test('nesting without end is a problem and no failure', async () => {
    const deep = `${'{"a":'.repeat(20_000)}1${'}'.repeat(20_000)}`;
    const found = await readStructuredData(`{"@context":"https://schema.org","a":${deep}}`);
    expect(found.problem).toMatch(/nested too deep/);
  });
});

describe('characterCount', () => {
  // Unicode 15.0. Later editions no longer take the scissors (U+2701) for a picture that joins.
  test('agrees with all cases of the Unicode Character Database', () => {
    const lines = saved('grapheme-breaks.txt')
      .split('\n')
      .filter((line) => line.startsWith('÷'));
    expect(lines).toHaveLength(602);
    const wrong = lines.filter((line) => {
      const clusters = line
        .split('÷')
        .map((part) => part.trim())
        .filter(Boolean);
      const text = clusters
        .flatMap((cluster) => cluster.split('×'))
        .map((hex) => String.fromCodePoint(parseInt(hex.trim(), 16)))
        .join('');
      return characterCount(text) !== clusters.length;
    });
    expect(wrong.filter((line) => line !== '÷ 2701 × 200D × 2701 ÷')).toEqual([]);
  });
});
