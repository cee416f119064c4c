import fc from 'fast-check';
import { INTENT_WORDS } from '../words/intent';
import { ENGLISH, lexiconOf } from '../words/stems';
import { wordsOf } from '../words/find';
import { marksOf, brandAtEnd } from './marks';
import { intentOfResults, kindOfResult } from './kinds';
import type { Result } from './resultPage';
import { middleHalf, measured, TITLE_ROOM } from './room';
import { stackedTitles } from './stacked';
import { inverseFrequency, rankWeight, sharedTerms, termsIn, type Ranked } from './terms';
import { tokensOf } from './tokens';
import { wordingOf, type WordingBasis } from './wording';
import { wordingSentence } from './wordingSentence';

const TITLES = [
  'Feeding Bees in Winter: When, How and What',
  'Winter Feeding: Fondant or Sugar Syrup?',
  'How to Feed Bees Fondant in Winter (Step by Step)',
  'Winter Feeding | Quillow Bee Yard | Guides & Advice 2024',
  'When to Feed Bees in Winter – Month by Month',
  'Fondant for Bees – 2.5 kg – Comb & Co',
  'Feeding Bees Sugar: 5 Mistakes to Avoid',
  'When should you start winter feeding?',
  'Winter bee feeding 2026: amounts by hive',
  'Fondant recipe for bees (video)',
];
const ranked = (titles: readonly string[]): Ranked[] => titles.map((text, i) => ({ rank: i + 1, text }));
const result = (rank: number, title: string, edit: Partial<Result> = {}): Result => ({
  ...{ rank, title, address: `https://rival${rank}.example/`, description: null, kind: null },
  ...{ dateShown: null, extras: [], ...edit },
});
const BASIS: WordingBasis = {
  lexicon: ENGLISH,
  intents: INTENT_WORDS.en,
  leftOut: new Set(),
  read: null,
  ownPages: null,
};

describe('terms', () => {
  const terms = sharedTerms(ranked(TITLES), ENGLISH, { own: TITLES[3]! });

  test('how many results say a word is what counting the titles by hand gives', () => {
    // An independent count: titles whose words begin so, without tokens, stems or segments.
    const count = (beginnings: RegExp) => TITLES.filter((title) => beginnings.test(title)).length;
    const of = (form: string) => terms.find(({ forms }) => forms.includes(form))?.results;
    expect(of('winter')).toBe(count(/\bwinter\b/i));
    expect(of('fondant')).toBe(count(/\bfondant\b/i));
    expect(of('bees')).toBe(count(/\bbees?\b/i));
    expect(of('feeding')).toBe(count(/\bfeed(?:s|ing)?\b/i));
  });

  test('terms run over words that only join, and not over separators', () => {
    expect([...termsIn('How to feed bees: fondant', ENGLISH).values()].map(({ form }) => form)).toEqual([
      'feed',
      'feed bees',
      'bees',
      'fondant',
    ]);
    expect(termsIn('Winter feeding | Bee Yard', ENGLISH).has('feed bee')).toBe(false);
    expect([...termsIn('move a beehive', ENGLISH)][1]).toEqual([
      'move beehiv',
      { words: 2, form: 'move a beehive' },
    ]);
  });

  test('a term of one’s own text is marked, and one that was left out does not count', () => {
    const winter = terms.find(({ term }) => term === 'winter')!;
    expect(winter).toMatchObject({ inTitle: true, words: 1 });
    expect(terms.find(({ forms }) => forms[0] === 'fondant')!.inTitle).toBe(false);
    const without = sharedTerms(ranked(TITLES), ENGLISH, { leftOut: new Set(['winter']) });
    expect(without.some(({ term }) => term.split(' ').includes('winter'))).toBe(false);
  });

  test('shares are weighted by rank as the source discounts them', () => {
    // Järvelin and Kekäläinen: the first rank counts whole, the third by half.
    expect([rankWeight(1), rankWeight(3), rankWeight(7)]).toEqual([1, 0.5, expect.closeTo(1 / 3)]);
    const [wax] = sharedTerms(
      [
        { rank: 1, text: 'Wax' },
        { rank: 3, text: 'Wax' },
        { rank: 7, text: 'Honey' },
      ],
      ENGLISH,
    );
    expect(wax!.share).toBeCloseTo(1.5 / (1.5 + 1 / 3));
  });

  test('how telling a term is agrees with the published table', () => {
    // Manning, Raghavan and Schütze (2008), figure 6.8: idf in decimal logarithms of 806,791 documents (from memory).
    const table: [number, number][] = [
      [18_165, 1.65],
      [6_723, 2.08],
      [19_241, 1.62],
      [25_235, 1.5],
    ];
    for (const [documents, idf] of table)
      expect(inverseFrequency(documents, 806_791) / Math.LN10).toBeCloseTo(idf, 2);
  });

  const titles = fc.array(
    fc
      .array(fc.constantFrom('wax', 'bees', 'bee', 'the', 'hive', '|', 'winter', '2026', 'of'), {
        maxLength: 8,
      })
      .map((words) => words.join(' ')),
    { minLength: 1, maxLength: 10 },
  );

  test('the order of results does not change counts, only weights; no term counts twice in a title', () => {
    fc.assert(
      fc.property(titles, (texts) => {
        const plain = sharedTerms(ranked(texts), ENGLISH);
        const turned = sharedTerms(ranked([...texts].reverse()), ENGLISH);
        const counts = (list: typeof plain) => new Map(list.map(({ term, results }) => [term, results]));
        expect(counts(turned)).toEqual(counts(plain));
        for (const { results, share, ranks } of plain) {
          expect(results).toBeLessThanOrEqual(texts.length);
          expect(new Set(ranks).size).toBe(results);
          expect(share).toBeGreaterThan(0);
          expect(share).toBeLessThanOrEqual(1 + 1e-12);
        }
      }),
    );
  });
});

test('titles are cut into pieces that make the title again, lined up at what most say', () => {
  const stacked = stackedTitles(TITLES, ENGLISH);
  stacked.forEach(({ pieces }, i) => expect(pieces.map(({ text }) => text).join('')).toBe(TITLES[i]));
  // Eight of the ten say bees and feeding, seven winter: each title is lined up at the most said of its own.
  expect(stacked.map(({ pieces, pivot }) => pieces[pivot]!.results).every((results) => results >= 7)).toBe(
    true,
  );
  expect(stackedTitles(['Alone'], ENGLISH)).toEqual([
    { pieces: [{ text: 'Alone', stem: null, results: 0 }], pivot: -1 },
  ]);
});

test('marks are told from what they are not', () => {
  expect([...marksOf(TITLES[3]!, 'https://www.quillow-bees.example/guides/')]).toEqual(['year', 'separator']);
  expect([...marksOf('5 Wax Molds (2026) | Comb & Co', 'https://combandco.example/')]).toEqual([
    ...['year', 'number', 'brackets', 'separator', 'brand'],
  ]);
  expect([...marksOf('How to melt wax')]).toEqual(['question']);
  expect([...marksOf('The best smoker')]).toEqual(['strong']);
  expect(brandAtEnd('Winter Feeding | Quillow Bee Yard', 'https://www.quillow-bees.example/')).toBe(
    'Quillow Bee Yard',
  );
  expect(brandAtEnd('Wax - how to melt it', 'https://www.quillow-bees.example/')).toBeNull();
});

test('the middle half lies between the quarters', () => {
  // Linear between neighbours, as R's quantile() has it by default (type 7): quantile(c(1,2,3,4), c(.25,.5,.75)).
  expect(middleHalf([4, 1, 3, 2], 9)).toEqual({ own: 9, low: 1.75, middle: 2.5, high: 3.25 });
  expect(middleHalf([], null)).toBeNull();
});

test('what does not fit is cut at the end of a word, at the width of a desk and of a hand', () => {
  const long = 'Winter feeding for bees: fondant, syrup and when to stop, month by month, for every hive';
  const { cut, characters } = measured(long, TITLE_ROOM);
  expect(characters).toBe(long.length);
  expect(long.startsWith(cut.desktop!)).toBe(true);
  expect(cut.mobile!.length).toBeLessThan(cut.desktop!.length);
  expect(/[\p{L}\p{N},:]$/u.test(cut.desktop!)).toBe(true);
  expect(measured('Wax', TITLE_ROOM).cut).toEqual({ desktop: null, mobile: null });
});

test('kinds and intent are guessed from what the results show, with reasons', () => {
  expect(kindOfResult(result(1, 'Wax', { address: 'https://a.example/forum/wax' }))).toBe('forum');
  expect(kindOfResult(result(1, '7 ways to melt wax'))).toBe('list');
  expect(kindOfResult(result(1, 'Fondant for bees 2.5 kg'))).toBe('page');
  expect(kindOfResult(result(1, 'Wax', { extras: ['price'] }))).toBe('shop');
  expect(kindOfResult(result(1, '7 ways', { kind: 'news' }))).toBe('news');
  const shops = Array.from({ length: 6 }, (_, i) => result(i + 1, 'Wax', { kind: 'shop' }));
  expect(intentOfResults('beeswax price', shops, INTENT_WORDS.en)).toEqual({
    guess: 'to-buy',
    reasons: ['the query has a word of searches to buy', '6 of 6 results are shops'],
  });
});

test('a result page is told in a sentence, and one’s own result is held against the others', () => {
  const results = TITLES.map((title, i) =>
    result(
      i + 1,
      title,
      i === 3 ? { address: 'https://www.quillow-bees.example/guides/winter-feeding/' } : {},
    ),
  );
  const own = (address: string) => address.includes('quillow');
  const wording = wordingOf({ query: { id: 1, text: 'feeding bees in winter' }, results }, own, BASIS);
  expect(wording.ownText).toBe(TITLES[3]);
  expect(wording.missing.map(({ forms }) => forms[0])).toContain('fondant');
  // Counted by hand: feeding, feed; bees, bee; “feed bees” in either form; fondant.
  expect(wordingSentence(wording)).toMatch(
    /^Eight of the ten say “feeding”, eight “bees”, as yours does; four say “feed bees”, four “fondant”, which yours does not\./,
  );
  expect(wording.marks.year).toEqual({ results: 1, own: true });
  const thought = wordingOf({ query: { id: 1, text: 'x' }, results }, own, BASIS, { own: 'Fondant' });
  expect(thought.terms.find(({ forms }) => forms[0] === 'fondant')!.inTitle).toBe(true);
});

test('other texts of the results can be compared, such as the H1s of their pages, as far as they are known', () => {
  const results = [result(1, 'A'), result(2, 'B'), result(3, 'C', { address: 'https://own.example/' })];
  const h1 = new Map([
    [1, 'Winter feeding'],
    [3, 'Feeding in winter'],
  ]);
  const wording = wordingOf(
    { query: { id: 1, text: 'x' }, results },
    (address) => address.includes('own'),
    BASIS,
    {
      of: 'h1',
      textOf: ({ rank }) => h1.get(rank) ?? null,
    },
  );
  expect(wording.results.map((one) => one.result.rank)).toEqual([1, 3]);
  expect(wording.ownText).toBe('Feeding in winter');
  expect(wording.terms.map(({ term, results: n }) => [term, n])).toEqual([
    ['feed', 2],
    ['winter', 2],
  ]);
});

test('titles that run from the right, without spaces, with marks of markup or pictures are words and pieces like any other', () => {
  const titles = [
    'تغذية النحل في الشتاء',
    'تغذية النحل',
    '冬のミツバチの給餌方法',
    'ミツバチ 給餌',
    '<b>Wax</b> & 🐝 wax',
    '🐝🐝',
  ];
  const stacked = stackedTitles(titles, ENGLISH);
  stacked.forEach(({ pieces }, i) => expect(pieces.map(({ text }) => text).join('')).toBe(titles[i]));
  const terms = sharedTerms(ranked(titles), ENGLISH);
  expect(terms.map(({ forms }) => forms[0])).toEqual(
    expect.arrayContaining(['تغذية النحل', 'ミツバチ 給餌']),
  );
  expect(tokensOf('<b>Wax</b>', ENGLISH).map(({ word }) => word)).toEqual(['b', 'wax', 'b']);
});

test('other languages have words of their own', () => {
  const german = lexiconOf('de');
  expect(german.stem('kerzen')).toBe(german.stem('kerze'));
  expect(
    tokensOf('die Bienen und der Honig', german)
      .filter(({ joining }) => !joining)
      .map(({ word }) => word),
  ).toEqual(wordsOf('bienen honig'));
});
