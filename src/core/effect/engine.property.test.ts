import fc from 'fast-check';
import { asDay } from '../calendar/day';
import { History } from '../history/history';
import { MEASURES } from '../measures/registry';
import { DAY, daysOf, seriesOf, type DayOf } from '../../../tests/support/readingInput';
import { EffectEngine, type Comparison } from './engine';

const FIRST = DAY - 260;
const LAST = DAY + 40;

/** A page made by arithmetic from a few whole numbers, with a step of its own on the day of the change. */
const anyPage = fc
  .record({
    size: fc.integer({ min: 20, max: 200 }),
    rhythm: fc.integer({ min: 5, max: 40 }),
    swing: fc.integer({ min: 0, max: 25 }),
    step: fc.integer({ min: 60, max: 160 }),
  })
  .map(({ size, rhythm, swing, step }): DayOf => (day) => {
    const at = (1 + (swing / 100) * Math.sin(day / rhythm)) * (day >= DAY ? step / 100 : 1);
    const clicks = Math.round(size * at);
    return { clicks, impressions: clicks * 20 + size, position: 3 + (size % 9) + Math.cos(day / rhythm) };
  });
const anySite = fc.array(anyPage, { minLength: 4, maxLength: 8 });

function read(
  pages: readonly DayOf[],
  ids: readonly number[] = pages.map((_, i) => 10 + i),
  by = 0,
): Comparison {
  const series = pages.map((of, i) => seriesOf(ids[i]!, FIRST + by, LAST + by, (day) => of(day - by)));
  const history = new History(asDay(FIRST + by), LAST - FIRST + 1, series, daysOf(FIRST + by, LAST + by));
  const touch = [{ day: DAY + by, pages: [{ id: 10 }] }];
  const groups = { of: pages.map(() => 0), count: 1 };
  const engine = new EffectEngine(history, groups, touch, asDay(LAST + by));
  return engine.compare({ ids: [10], day: asDay(DAY + by), horizon: { days: 28, settlingDays: 3 } })!;
}

function expectSame(a: Comparison, b: Comparison): void {
  for (const metric of MEASURES) {
    const [x, y] = [a.effects[metric]!, b.effects[metric]!];
    expect([y.net, y.low, y.high]).toEqual([x.net, x.low, x.high].map((v) => expect.closeTo(v, 8)));
  }
}

test('the order in which pages stand changes nothing', () => {
  fc.assert(
    fc.property(anySite, (pages) => {
      const ids = pages.map((_, i) => 10 + i);
      expectSame(read(pages, ids), read([...pages].reverse(), [...ids].reverse()));
    }),
    { numRuns: 15 },
  );
});

test('what the pages are called changes nothing', () => {
  fc.assert(
    fc.property(anySite, fc.integer({ min: 1, max: 900 }), (pages, by) => {
      const ids = pages.map((_, i) => 10 + i);
      // The page that is read keeps its number; the others get any.
      const others = ids.map((id, i) => (i === 0 ? id : 1000 + ((id * by) % 997) * 10 + i));
      expectSame(read(pages, ids), read(pages, others));
    }),
    { numRuns: 15 },
  );
});

test('a reading does not depend on when it was', () => {
  fc.assert(
    fc.property(anySite, fc.integer({ min: -2000, max: 2000 }), (pages, by) => {
      expectSame(read(pages), read(pages, undefined, by));
    }),
    { numRuns: 15 },
  );
});

test('what happens to every page alike is no effect of the change', () => {
  fc.assert(
    fc.property(anySite, fc.integer({ min: 2, max: 4 }), (pages, times) => {
      // Whole multiples, so that nothing is rounded; large counts, so that half a count more does not matter.
      const large = pages.map((of): DayOf => (day) => ({
        ...of(day),
        clicks: 100 * of(day).clicks,
        impressions: 100 * of(day).impressions,
      }));
      const season = large.map((of): DayOf => (day) => {
        const { clicks, impressions, position } = of(day);
        const factor = day >= DAY ? times : 1;
        return { clicks: factor * clicks, impressions: factor * impressions, position };
      });
      const [plain, seasonal] = [read(large), read(season)];
      expect(seasonal.effects.ctr!.net).toBeCloseTo(plain.effects.ctr!.net, 2);
      expect(Math.abs(seasonal.effects.clicks!.net - plain.effects.clicks!.net)).toBeLessThan(0.1);
      expect(seasonal.control.move.clicks! - plain.control.move.clicks!).toBeCloseTo(Math.log(times), 1);
    }),
    { numRuns: 15 },
  );
});

test('every interval holds its estimate, and net clicks are net showings times net appeal', () => {
  fc.assert(
    fc.property(anySite, (pages) => {
      const { effects, placebo: spells } = read(pages);
      for (const metric of MEASURES) {
        const { low, net, high } = effects[metric]!;
        expect(low).toBeLessThan(net);
        expect(net).toBeLessThan(high);
        const count = spells(metric);
        expect(count.asLarge).toBeLessThanOrEqual(count.spells);
      }
      expect(effects.clicks!.net).toBeCloseTo(effects.showings!.net + effects.appeal!.net, 9);
    }),
    { numRuns: 15 },
  );
});
