import fc from 'fast-check';
import { twoWayTimeEffects } from './twoWayEffects';

type Cell = { unit: number; time: number; value: number; weight: number };

function effectsOf(cells: readonly Cell[]): number[] {
  return Array.from(
    twoWayTimeEffects({
      length: cells.length,
      unit: Int32Array.from(cells, (one) => one.unit),
      units: Math.max(...cells.map((one) => one.unit)) + 1,
      time: Int32Array.from(cells, (one) => one.time),
      times: Math.max(...cells.map((one) => one.time)) + 1,
      value: Float64Array.from(cells, (one) => one.value),
      weight: Float64Array.from(cells, (one) => one.weight),
    }),
  );
}

/*
 * R 4.2:
 * d <- data.frame(
 *   query = rep(c("A", "B", "C", "D", "E"), c(6, 6, 3, 6, 2)),
 *   week = factor(c(1:6, 1:6, 4:6, 1:6, 1:2)),
 *   pos = c(4,4.2,4.1,3.9,4.0,5.1, 8,8.1,7.9,8.2,8.0,10.1, 18,17.5,22, 3,2.9,3.1,3.0,3.05,3.8, 6,6.2),
 *   m = c(100,110,95,105,98,102, 40,42,38,41,40,39, 60,65,63, 20,22,21,19,20,21, 30,28))
 * coef(lm(log(pos) ~ query + week, weights = m, data = d))
 */
test("an unbalanced panel of queries has the week effects of R's lm", () => {
  const queries = [
    [1, [4, 4.2, 4.1, 3.9, 4.0, 5.1], [100, 110, 95, 105, 98, 102]],
    [1, [8, 8.1, 7.9, 8.2, 8.0, 10.1], [40, 42, 38, 41, 40, 39]],
    [4, [18, 17.5, 22], [60, 65, 63]],
    [1, [3, 2.9, 3.1, 3.0, 3.05, 3.8], [20, 22, 21, 19, 20, 21]],
    [1, [6, 6.2], [30, 28]],
  ] as const;
  const effects = effectsOf(
    queries.flatMap(([from, positions, impressions], unit) =>
      positions.map((position, i) => ({
        ...{ unit, time: from - 1 + i, value: Math.log(position), weight: impressions[i]! },
      })),
    ),
  );
  const againstFirst = effects.map((effect) => effect - effects[0]!);
  [0, 0.0300045, 0.0169185, -0.0017598, -0.0005943, 0.2346611].forEach((expected, week) =>
    expect(againstFirst[week]).toBeCloseTo(expected, 6),
  );
});

test('units that enter and leave move nothing, whatever their level', () => {
  const panel = fc.record({
    levels: fc.array(fc.double({ min: 0, max: 4, noNaN: true }), { minLength: 2, maxLength: 12 }),
    moves: fc.array(fc.double({ min: -1, max: 1, noNaN: true }), { minLength: 2, maxLength: 20 }),
    seed: fc.integer({ min: 1, max: 1_000_000 }),
  });
  fc.assert(
    fc.property(panel, ({ levels, moves, seed }) => {
      let state = seed;
      const next = () => (state = (state * 48_271) % 2_147_483_647) / 2_147_483_647;
      const cells = levels.flatMap((level, unit) =>
        moves.flatMap((move, time) =>
          // The first unit is there at all times, so that every time is linked with every other.
          unit === 0 || next() < 0.4 ? [{ unit, time, value: level + move, weight: 1 + 9 * next() }] : [],
        ),
      );
      const effects = effectsOf(cells);
      moves.forEach((move, time) => expect(effects[time]! - effects[0]!).toBeCloseTo(move - moves[0]!, 4));
    }),
  );
});

test('times that no unit links have no known difference', () => {
  const apart = effectsOf([
    { unit: 0, time: 0, value: 1, weight: 2 },
    { unit: 1, time: 1, value: 5, weight: 3 },
  ]);
  expect(apart).toEqual([0, 0]);
});
