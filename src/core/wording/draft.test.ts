import { ENGLISH } from '../words/stems';
import { draftReport, networkOf, type DraftBasis } from './draft';
import { filledIn, patternProblem } from './patterns';
import { sharedTerms } from './terms';

const OTHERS = [
  'Feeding Bees in Winter: When, How and What',
  'Winter Feeding: Fondant or Sugar Syrup?',
  'How to Feed Bees Fondant in Winter (Step by Step)',
];
const BASIS: DraftBasis = {
  of: 'title',
  lexicon: ENGLISH,
  terms: sharedTerms(
    OTHERS.map((text, i) => ({ rank: i + 1, text })),
    ENGLISH,
  ),
  others: OTHERS,
  present: 'Winter Feeding | Quillow Bee Yard | Guides & Advice 2024',
  query: 'winter feeding bees',
  searches: [
    { query: 'winter feeding guides', impressions: 140 },
    { query: 'winter feeding', impressions: 900 },
    { query: 'fondant for bees', impressions: 500 },
  ],
  read: null,
  address: 'https://www.quillow-bees.example/guides/winter-feeding/',
  year: 2026,
};

test('a draft is held against the results, the title as it is, and the searches of its page', () => {
  const report = draftReport('Winter feeding for bees: fondant and when to stop [2026]', BASIS);
  expect(report.says).toEqual(expect.arrayContaining(['winter', 'fondant']));
  expect(report.alone).toEqual(['stop', '2026']);
  expect(report.loses).toEqual(['quillow', 'yard', 'guides', 'advice', '2024']);
  expect(report.stopsSaying).toEqual([{ query: 'winter feeding guides', impressions: 140 }]);
  expect(report.unsaid).toBe(140);
  expect(report.marks).toEqual(expect.arrayContaining(['year', 'brackets']));
  expect(report.query).toEqual({ place: 'front', missing: [] });
  expect(report.ballast).toEqual([]);
});

test('what tells nothing of the page is named', () => {
  const report = draftReport('Wax 2024 | Quillow Bee Yard', BASIS);
  expect(report.ballast).toEqual(['59% of it is the name of the site', 'the year 2024 has passed']);
});

test.each([
  ['Winter feeding bees with fondant', 'front', []],
  ['Fondant and winter feeding of bees', 'within', []],
  ['Bees: feeding in winter', 'words', []],
  ['Feeding bees', 'parts', ['winter']],
  ['Honey jars', 'absent', ['winter', 'feeding', 'bees']],
])('the query stands in “%s” as: %s', (text, place, missing) => {
  expect(networkOf('winter feeding bees', text, ENGLISH)).toEqual({ place, missing });
});

test('a pattern is filled in, and what is absent takes its separator along', () => {
  const pattern = '{target} · {what} ({year})';
  expect(filledIn(pattern, { target: 'wax molds', what: 'how to choose', year: '2026' })).toBe(
    'Wax molds · how to choose (2026)',
  );
  expect(filledIn(pattern, { target: 'wax molds', year: '2026' })).toBe('Wax molds (2026)');
  expect(filledIn(pattern, { what: 'how to choose' })).toBe('How to choose');
  expect(filledIn('{site} | {target}', { target: 'Wax' })).toBe('Wax');
  expect(patternProblem(pattern)).toBeNull();
  expect(patternProblem('{targt}')).toMatch(/no \{targt\}/);
  expect(patternProblem('{target')).toBe('A brace is left open.');
  expect(patternProblem('  ')).toBe('The pattern is empty.');
});
