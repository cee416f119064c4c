import { readFileSync } from 'node:fs';
import path from 'node:path';
import { LANGUAGES, type Language } from '../model/languages';
import { ENGLISH, lexiconOf, tellingWordsOf } from './stems';

const REFERENCE = readFileSync(path.join(__dirname, 'stems.reference.txt'), 'utf8')
  .split('\n')
  .filter((line) => line !== '' && !line.startsWith('#'))
  .map((line) => line.split(' ') as [Language, string, string]);

/** Words whose British and American spellings have one stem here, which the reference does not know; and one that its version stems anew. */
const OTHERWISE = new Set(['catechised', 'enfranchised', 'aïe']);

describe('stems are those of the Snowball project’s own program', () => {
  test.each(LANGUAGES)('%s', (language) => {
    const lexicon = lexiconOf(language);
    const words = REFERENCE.filter(([of]) => of === language);
    expect(words).toHaveLength(250);
    const differ = words
      .map(([, word, stem]) => [word, stem, lexicon.stem(word)] as const)
      .filter(([word, stem, own]) => stem !== own && !OTHERWISE.has(word));
    expect(differ).toEqual([]);
  });
});

test('spellings of two countries have one stem, and words that only look so keep theirs', () => {
  for (const [british, american] of [
    ['colour', 'color'],
    ['mould', 'mold'],
    ['organise', 'organizing'],
    ['centre', 'centers'],
    ['travelled', 'traveling'],
    ['grey', 'gray'],
  ] as const)
    expect([british, ENGLISH.stem(british)]).toEqual([british, ENGLISH.stem(american)]);
  expect(ENGLISH.stem('hour')).not.toBe(ENGLISH.stem('hor'));
  expect(ENGLISH.stem('noise')).not.toBe(ENGLISH.stem('noize'));
});

test('words that only join are left out unless there are no others, and a site may have its own', () => {
  expect(tellingWordsOf('the wick of winter')).toEqual(['wick', 'winter']);
  expect(tellingWordsOf('to be or at')).toEqual(['to', 'be', 'or', 'at']);
  expect(tellingWordsOf('the wick of winter', lexiconOf('en', ['wick']))).toEqual(['the', 'of', 'winter']);
});
