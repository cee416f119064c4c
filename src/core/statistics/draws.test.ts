import fc from 'fast-check';
import { Draws, type Placed } from './draws';

const placed = fc
  .array(fc.array(fc.boolean(), { minLength: 1, maxLength: 6 }), { minLength: 1, maxLength: 4 })
  .map((blocks) => blocks.flatMap((units, block) => units.map((first): Placed => ({ block, first }))));

const rowsOf = (units: readonly Placed[], seed = 1) => {
  const { count, sent, first } = new Draws(seed).of(units);
  return Array.from({ length: count }, (_, i) => {
    const goFirst = first.subarray(i * sent, (i + 1) * sent);
    return units.map((_unit, row) => Number(goFirst.includes(row)));
  });
};

test('every draw sends as many of each block first as were sent, and of few draws each comes once', () => {
  fc.assert(
    fc.property(placed, (units) => {
      const rows = rowsOf(units);
      const sent = (goesFirst: (unit: Placed, at: number) => boolean) =>
        units.reduce(
          (byBlock, unit, at) =>
            byBlock.set(unit.block, (byBlock.get(unit.block) ?? 0) + Number(goesFirst(unit, at))),
          new Map<number, number>(),
        );
      const made = sent(({ first }) => first);
      for (const row of rows.slice(0, 200)) expect(sent((_, at) => row[at] === 1)).toEqual(made);
      if (new Draws(1).of(units).exact) expect(new Set(rows.map(String)).size).toBe(rows.length);
      expect(rows.map(String)).toContain(String(units.map(({ first }) => Number(first))));
    }),
    { numRuns: 60 },
  );
});

test('four of eight can be drawn in seventy ways, four of four pairs in sixteen', () => {
  const eight = Array.from({ length: 8 }, (_, i): Placed => ({ block: 0, first: i < 4 }));
  expect(rowsOf(eight)).toHaveLength(70);
  expect(rowsOf(eight.map((unit, i) => ({ ...unit, block: i % 4 })))).toHaveLength(16);
});

test('more than fifty thousand are sampled by the seed, every unit first about as often as not', () => {
  const twenty = Array.from({ length: 20 }, (_, i): Placed => ({ block: 0, first: i % 2 === 0 }));
  const rows = rowsOf(twenty, 7);
  expect(new Draws(7).of(twenty)).toMatchObject({ count: 10_000, exact: false });
  expect(rowsOf(twenty, 7)).toEqual(rows);
  expect(rowsOf(twenty, 8)).not.toEqual(rows);
  for (let at = 0; at < 20; at++) {
    const share = rows.filter((row) => row[at] === 1).length / rows.length;
    // Four standard errors.
    expect(Math.abs(share - 0.5)).toBeLessThan(0.02);
  }
});

test('draws are made once for units that stand alike', () => {
  const draws = new Draws(1);
  const units = [true, false, true, false].map((first): Placed => ({ block: 0, first }));
  expect(draws.of(units)).toBe(draws.of(units.map((unit) => ({ ...unit }))));
  expect(draws.of(units)).not.toBe(draws.of(units.map((unit, i) => ({ ...unit, block: i % 2 }))));
});
