import { commonPart, tellingWords, wordsOf } from './common';

test('the part of a site that most of some addresses are in', () => {
  expect(commonPart(['https://a.example/shop/x', 'https://a.example/shop/y', 'https://a.example/'])).toBe(
    '/shop/',
  );
  expect(commonPart(['https://a.example/shop/x', 'https://a.example/guides/y'])).toBeNull();
  expect(commonPart([])).toBeNull();
});

test('words that tell a group from others, and not those that all have', () => {
  const own = new Map([
    ['smoker', 5],
    ['bee', 5],
  ]);
  const other = new Map([
    ['honey', 5],
    ['bee', 5],
  ]);
  expect(tellingWords([own, other])).toEqual([['smoker'], ['honey']]);
  expect(tellingWords([own, own])).toEqual([[], []]);
  expect(tellingWords([new Map()])).toEqual([[]]);
  expect([...wordsOf('A bee-smoker, for BEE yards')]).toEqual(['bee', 'smoker', 'for', 'yards']);
});
