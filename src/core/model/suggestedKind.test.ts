import { CHANGE_KINDS } from './change';
import { suggestedKind } from './suggestedKind';

test.each([
  ['Shorter title on the smoker guide', 'title-rewrite'],
  ['Meta desc', 'meta-description'],
  ['Description says delivery in two days', 'meta-description'],
  ['Fetch & request indexing', 'reindex-request'],
  ['FAQ markup with titles', 'structured-data'],
  ['H1 says the price', 'headings'],
  ['Linked from the home page', 'internal-links'],
  ['301 from the old slug', 'address-or-redirect'],
  ['Noindex on tags', 'indexing-directives'],
  ['Reverted the winter title', 'undo'],
  ['Hero image compressed', 'media'],
  ['Rewrote the intro', 'body-copy'],
])('“%s” is %s', (words, kind) => {
  expect(suggestedKind(words)).toBe(kind);
  expect(Object.hasOwn(CHANGE_KINDS, kind)).toBe(true);
});

test('words that say nothing suggest nothing', () => {
  expect([suggestedKind(''), suggestedKind('Tidied up'), suggestedKind('entitled')]).toEqual([
    null,
    null,
    null,
  ]);
});
