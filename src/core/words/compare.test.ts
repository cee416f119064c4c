import fc from 'fast-check';
import { compareTexts } from './compare';

test('what went and what came is told word by word', () => {
  expect(compareTexts('How to light a bee smoker', 'How to light a smoker that stays lit')).toEqual([
    { text: 'How to light a ', kind: 'same' },
    { text: 'bee ', kind: 'went' },
    { text: 'smoker', kind: 'same' },
    { text: ' that stays lit', kind: 'came' },
  ]);
});

test('the pieces make up both texts, whatever they are', () => {
  const text = fc.string({ unit: fc.constantFrom('bee', 'hive', ' ', ',', 'é', '\n', '漢'), maxLength: 20 });
  fc.assert(
    fc.property(text, text, (before, after) => {
      const parts = compareTexts(before, after);
      const without = (kind: string) =>
        parts
          .filter((part) => part.kind !== kind)
          .map((part) => part.text)
          .join('');
      expect([without('came'), without('went')]).toEqual([before, after]);
    }),
  );
  const long = 'word '.repeat(3000);
  expect(compareTexts(long, 'x')).toHaveLength(2);
});
