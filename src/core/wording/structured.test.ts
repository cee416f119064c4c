import { readStructuredData } from '../markup/structuredData';
import type { PageEvidence } from '../model/evidence';
import { questionsOf, suggestedData } from './structured';

const PAGE: PageEvidence = {
  ...{
    status: 200,
    finalAddress: 'https://www.quillow-bees.example/guides/winter-feeding/',
    title: 'Winter feeding',
  },
  ...{ description: 'When and what to feed.', canonical: null, robots: [], structuredData: [], words: 600 },
  headings: [
    { level: 1, text: 'Winter feeding' },
    { level: 2, text: 'When should I feed?' },
    { level: 2, text: 'How much fondant?' },
    { level: 2, text: 'Step 1: weigh the hive' },
    { level: 2, text: 'Step 2: make "fondant"' },
    { level: 2, text: 'Step 3: lay it on' },
  ],
  text: 'Winter feeding\nWhen should I feed?\nIn October.\nBefore frost.\nHow much fondant?\nTwo kilos.\nStep 1: weigh the hive\nLift it.',
  ...{ links: [], images: 0, imagesWithoutAlt: [], encoding: 'utf-8', misfits: 0 },
};
const NONE = { siteName: 'Quillow Bee Yard', shown: { stars: 0, price: 0, answers: 0 } };

test('questions among the headings come with the text below them', () => {
  expect(questionsOf(PAGE)).toEqual([
    { question: 'When should I feed?', answer: 'In October. Before frost.' },
    { question: 'How much fondant?', answer: 'Two kilos.' },
  ]);
});

test('every block that is suggested is valid to the reader that reads pages', async () => {
  const found = suggestedData(PAGE, { ...NONE, shown: { stars: 3, price: 2, answers: 4 } });
  expect(found.map(({ type }) => type)).toEqual(['FAQPage', 'Product', 'HowTo', 'BreadcrumbList']);
  for (const { type, json } of found) {
    const read = await readStructuredData(json);
    expect(read.problem).toBeNull();
    expect(read.types).toContain(type);
  }
  expect(found[1]!.toFillIn).toEqual(['price', 'currency']);
});

test('what the page carries already is not suggested again', () => {
  const carries = [
    { types: ['FAQPage', 'Question'], problem: null },
    { types: ['HowTo'], problem: null },
  ];
  const found = suggestedData({ ...PAGE, structuredData: carries }, NONE);
  expect(found.map(({ type }) => type)).toEqual(['BreadcrumbList', 'Article']);
  const bare = {
    ...PAGE,
    headings: [],
    text: '',
    words: 20,
    finalAddress: 'https://www.quillow-bees.example/',
  };
  expect(suggestedData(bare, NONE).map(({ type }) => type)).toEqual(['WebPage']);
});
