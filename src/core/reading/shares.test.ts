import fc from 'fast-check';
import { movedShare } from './shares';

const by = 'device' as const;

test('names the part whose share moved most', () => {
  const parts = [
    { name: 'desktop', before: 300, after: 50 },
    { name: 'mobile', before: 600, after: 100 },
    { name: 'tablet', before: 100, after: 50 },
  ];
  expect(movedShare({ by, parts })).toEqual({ name: 'tablet', before: 0.1, after: 0.25 });
});

test('says nothing of a side without impressions, nor of a whole that only grew', () => {
  expect(movedShare({ by, parts: [] })).toBeNull();
  expect(movedShare({ by, parts: [{ name: 'mobile', before: 0, after: 9 }] })).toBeNull();
  const part = fc.record({ name: fc.string(), before: fc.integer({ min: 1, max: 1000 }) });
  fc.assert(
    fc.property(fc.array(part, { minLength: 1 }), fc.integer({ min: 1, max: 50 }), (parts, times) => {
      const grown = parts.map((p) => ({ ...p, after: p.before * times }));
      expect(movedShare({ by, parts: grown })).toBeNull();
    }),
  );
});
