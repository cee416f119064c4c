import fc from 'fast-check';
import { asDay } from '../calendar/day';
import { addressKey, compareDays, daysSentence, resultsEvents } from './days';
import type { Above, Result } from './resultPage';

const result = (rank: number, site: string, edit: Partial<Result> = {}): Result => ({
  ...{ rank, title: `Title of ${site}`, address: `https://${site}.example/`, description: null },
  ...{ kind: null, dateShown: null, extras: [], ...edit },
});

test('who came, went, moved and reworded', () => {
  const found = compareDays(
    { results: [result(1, 'a'), result(2, 'b', { extras: ['stars'] }), result(3, 'c')], above: [] },
    {
      results: [result(1, 'b'), result(2, 'a', { title: 'Anew', extras: ['price'] }), result(3, 'd')],
      above: [{ kind: 'map', own: null }],
    },
  );
  expect(found.came.map(({ address }) => address)).toEqual(['https://d.example/']);
  expect(found.went.map(({ address }) => address)).toEqual(['https://c.example/']);
  expect(found.stayed).toMatchObject([
    { gained: 1, retitled: false, extrasLost: ['stars'], extrasGained: [] },
    { gained: -1, retitled: true, extrasLost: [], extrasGained: ['price'] },
  ]);
  expect(found.aboveCame).toEqual(['map']);
  expect(daysSentence(found)).toBe('1 result came and 1 went; 2 moved; 1 was reworded.');
});

test('addresses are the same with and without scheme, www, slash and what follows a question mark', () => {
  expect(addressKey('https://www.a.example/wax/?from=x#y')).toBe(addressKey('http://a.example/wax'));
});

test('a day compared with itself differs in nothing, and turned round all signs turn', () => {
  const results = fc
    .uniqueArray(fc.constantFrom('a', 'b', 'c', 'd', 'e'), { minLength: 1 })
    .map((sites) => sites.map((site, i) => result(i + 1, site)));
  fc.assert(
    fc.property(results, results, (one, other) => {
      const side = (list: Result[]) => ({ results: list, above: [] as Above[] });
      expect(daysSentence(compareDays(side(one), side(one)))).toBe('Nothing changed.');
      const there = compareDays(side(one), side(other));
      const back = compareDays(side(other), side(one));
      expect(back.came).toEqual(there.went);
      expect(back.stayed.reduce((sum, { gained }) => sum + gained, 0)).toBeCloseTo(
        -there.stayed.reduce((sum, { gained }) => sum + gained, 0),
      );
    }),
  );
});

test('what happened to one’s own result and above the results is told with its days', () => {
  const own = (address: string) => address.includes('own');
  const events = resultsEvents(
    [
      {
        day: asDay(30),
        results: [result(1, 'own', { title: 'New', extras: [] })],
        above: [{ kind: 'answer-generated', own: false }],
      },
      { day: asDay(10), results: [result(2, 'own', { extras: ['stars'] }), result(1, 'a')], above: [] },
    ],
    own,
  );
  expect(events.map(({ from, to, text }) => [from, to, text])).toEqual([
    [10, 30, 'the results show “New”'],
    [10, 30, 'the result lost its stars'],
    [10, 30, 'a generated answer appeared above the results'],
  ]);
});
