import fc from 'fast-check';
import { asDay, isoWeekday } from './day';
import { changeSpans, interimSpans, lastSpans, overlap, spanLength } from './span';

const anyDay = fc.integer({ min: 0, max: 40_000 }).map(asDay);
const anySpans = fc.tuple(anyDay, fc.integer({ min: 1, max: 100 }), fc.integer({ min: 0, max: 30 }));

test('spans stand where the method puts them', () => {
  const { before, after } = changeSpans(asDay(1000), 28, 3);
  expect(before).toEqual({ firstDay: 972, lastDay: 999 });
  expect(after).toEqual({ firstDay: 1003, lastDay: 1030 });
});

test('both spans have the wanted length and the settling days lie between them', () => {
  fc.assert(
    fc.property(anySpans, ([day, n, s]) => {
      const { before, after } = changeSpans(day, n, s);
      expect([spanLength(before), spanLength(after)]).toEqual([n, n]);
      expect(after.firstDay - before.lastDay - 1).toBe(s);
    }),
  );
});

test('spans of whole weeks hold each weekday equally often', () => {
  const { before, after } = changeSpans(asDay(20_711), 28, 3);
  for (const { firstDay, lastDay } of [before, after]) {
    const seen = new Array<number>(8).fill(0);
    for (let day = firstDay; day <= lastDay; day = asDay(day + 1)) seen[isoWeekday(day)]!++;
    expect(seen.slice(1)).toEqual([4, 4, 4, 4, 4, 4, 4]);
  }
});

test.each([0, -1, 1.5])('a window of %p days is refused', (n) => {
  expect(() => changeSpans(asDay(1000), n, 0)).toThrow(RangeError);
});

test('interim spans are whole weeks of equal length, next to the change', () => {
  fc.assert(
    fc.property(anySpans, fc.integer({ min: -10, max: 200 }), ([day, n, s], later) => {
      const spans = changeSpans(day, n, s);
      const interim = interimSpans(spans, asDay(day + later));
      const readable = Math.min(n, later - s + 1);
      if (readable < 7) {
        expect(interim).toBeNull();
        return;
      }
      expect(spanLength(interim!.after)).toBe(Math.floor(readable / 7) * 7);
      expect(spanLength(interim!.before)).toBe(spanLength(interim!.after));
      expect(interim!.before.lastDay).toBe(spans.before.lastDay);
      expect(interim!.after.firstDay).toBe(spans.after.firstDay);
    }),
  );
});

test('an overlap holds exactly the days of both spans', () => {
  const span = fc
    .tuple(fc.integer({ min: 0, max: 60 }), fc.integer({ min: 0, max: 30 }))
    .map(([first, length]) => ({
      firstDay: asDay(first),
      lastDay: asDay(first + length),
    }));
  fc.assert(
    fc.property(span, span, (a, b) => {
      const shared = overlap(a, b);
      for (let day = 0; day < 100; day++) {
        const inBoth = day >= a.firstDay && day <= a.lastDay && day >= b.firstDay && day <= b.lastDay;
        expect(shared !== null && day >= shared.firstDay && day <= shared.lastDay).toBe(inBoth);
      }
    }),
  );
});

test('the last days and as many before them', () => {
  const { before, after } = lastSpans(asDay(20_700), 28);
  expect([spanLength(before), spanLength(after)]).toEqual([28, 28]);
  expect([after.lastDay, after.firstDay - before.lastDay]).toEqual([20_700, 1]);
});
