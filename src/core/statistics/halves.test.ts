import jstat from 'jstat';
import { randomLcg, randomNormal } from 'd3-random';
import fc from 'fast-check';
import { Draws } from './draws';
import { adjusted, falseDiscovery } from './falseDiscovery';
import { randomisationTest, type Unit } from './randomisation';
import { efronMorrisFactor, shrunken } from './shrinkage';

describe('randomisation', () => {
  // Fisher, The Design of Experiments (1935), chapter II: four of eight cups have the milk first.
  const cups = (told: readonly number[]): Unit[] =>
    [1, 1, 1, 1, 0, 0, 0, 0].map((milkFirst, i) => ({
      ...{ value: told[i]!, weight: 1, block: 0 },
      first: milkFirst === 1,
    }));

  test('the tea tasting, all right and one pair wrong', () => {
    const right = randomisationTest(cups([1, 1, 1, 1, 0, 0, 0, 0]), 0.9, new Draws(1));
    expect(right).toMatchObject({ draws: 70, exact: true, difference: 1 });
    expect(right.oneSided).toBeCloseTo(1 / 70, 12);
    expect(right.twoSided).toBeCloseTo(2 / 70, 12);
    expect(randomisationTest(cups([1, 1, 1, 0, 1, 0, 0, 0]), 0.9, new Draws(1)).oneSided).toBeCloseTo(
      17 / 70,
      12,
    );
  });

  // Fisher (1935), section 21, Darwin's maize: crossed less self-fertilised, in eighths of an inch; data from memory.
  const MAIZE = [49, -67, 8, 16, 6, 23, 28, 41, 14, 29, 56, 24, 75, 60, -48];
  const pots = MAIZE.flatMap((value, block): Unit[] => [
    { value, weight: 1, block, first: true },
    { value: 0, weight: 1, block, first: false },
  ]);

  test('Darwin’s maize, pair by pair', () => {
    const found = randomisationTest(pots, 0.9, new Draws(1));
    expect(found).toMatchObject({ draws: 32_768, exact: true });
    expect(found.difference * 15).toBeCloseTo(314, 9);
    expect(found.oneSided * 32_768).toBeCloseTo(863, 6);
    expect(found.twoSided).toBeCloseTo(1726 / 32_768, 9);
    // Since p is .0527, nine in ten excludes nought and 95 in a hundred does not.
    expect(found.low).toBeGreaterThan(0);
    expect(randomisationTest(pots, 0.95, new Draws(1)).low).toBeLessThan(0);
  });

  test('of more draws than can be gone through a sample is near the exact answer, and a seed brings it again', () => {
    const many = [
      ...pots,
      ...pots.map((unit) => ({ ...unit, block: unit.block + 15, value: unit.value / 2 })),
    ];
    const one = randomisationTest(many, 0.9, new Draws(7));
    expect(one).toMatchObject({ exact: false, draws: 10_000 });
    expect(randomisationTest(many, 0.9, new Draws(7))).toEqual(one);
    expect(Math.abs(randomisationTest(many, 0.9, new Draws(8)).twoSided - one.twoSided)).toBeLessThan(0.02);
  });

  const units = fc
    .array(fc.tuple(fc.integer({ min: -50, max: 50 }), fc.integer({ min: -50, max: 50 })), {
      minLength: 3,
      maxLength: 7,
    })
    .map((pairs) =>
      pairs.flatMap(([a, b], block): Unit[] => [
        { value: a, weight: 1, block, first: true },
        { value: b, weight: 1, block, first: false },
      ]),
    );

  test('a shift of the first half shifts difference and interval, the order of units and exchanged halves change nothing else', () => {
    fc.assert(
      fc.property(units, fc.integer({ min: -30, max: 30 }), (given, shift) => {
        const plain = randomisationTest(given, 0.75, new Draws(1));
        expect(plain.low).toBeLessThanOrEqual(plain.difference + 1e-9);
        expect(plain.high).toBeGreaterThanOrEqual(plain.difference - 1e-9);
        const moved = randomisationTest(
          given.map((unit) => (unit.first ? { ...unit, value: unit.value + shift } : unit)),
          0.75,
          new Draws(1),
        );
        expect(moved.difference).toBeCloseTo(plain.difference + shift, 9);
        expect(moved.low).toBeCloseTo(plain.low + shift, 4);
        expect(moved.high).toBeCloseTo(plain.high + shift, 4);
        expect(randomisationTest([...given].reverse(), 0.75, new Draws(1)).twoSided).toBeCloseTo(
          plain.twoSided,
          12,
        );
        const turned = randomisationTest(
          given.map((unit) => ({ ...unit, first: !unit.first })),
          0.75,
          new Draws(1),
        );
        expect(turned.difference).toBeCloseTo(-plain.difference, 9);
        expect(turned.twoSided).toBeCloseTo(plain.twoSided, 12);
      }),
      { numRuns: 40 },
    );
  });

  describe('with something outside the draw', () => {
    test('that counts for nothing is the test of the draw alone', () => {
      fc.assert(
        fc.property(units, (given) => {
          expect(
            randomisationTest(given, 0.75, new Draws(1), { share: 1, error: 0, priorFreedom: 30 }),
          ).toEqual(randomisationTest(given, 0.75, new Draws(1)));
        }),
        { numRuns: 20 },
      );
    });

    test('that counts for everything holds the first half against nought, by its own error', () => {
      // No page differs from another, so that the draw says nothing: 0.2 at an error of 0.1 is two standard errors of the normal distribution.
      const same = Array.from({ length: 8 }, (_, i): Unit => {
        const first = i % 2 === 0;
        return { value: first ? 0.2 : 0, weight: 1, block: 0, first };
      });
      const found = randomisationTest(
        same.map((unit) => ({ ...unit, value: 0.2 })),
        0.9,
        new Draws(1),
        { share: 0, error: 0.1, priorFreedom: 0 },
      );
      expect(found.difference).toBeCloseTo(0.2, 12);
      expect(found.twoSided).toBeCloseTo(0.0455, 2);
      const half = randomisationTest(same, 0.9, new Draws(1), { share: 0.5, error: 0, priorFreedom: 0 });
      expect(half.difference).toBeCloseTo(0.2, 12);
    });

    test('a shift of the first half shifts difference and interval too, and every draw of few meets errors of all sizes', () => {
      fc.assert(
        fc.property(
          units,
          fc.integer({ min: -30, max: 30 }),
          fc.double({ min: 0, max: 1, noNaN: true }),
          (given, shift, share) => {
            const outside = { share, error: 5 * (1 - share), priorFreedom: 20 };
            const plain = randomisationTest(given, 0.75, new Draws(1), outside);
            const moved = randomisationTest(
              given.map((unit) => (unit.first ? { ...unit, value: unit.value + shift } : unit)),
              0.75,
              new Draws(1),
              outside,
            );
            expect(moved.difference).toBeCloseTo(plain.difference + shift, 9);
            expect(moved.low).toBeCloseTo(plain.low + shift, 4);
            expect(moved.high).toBeCloseTo(plain.high + shift, 4);
            if (outside.error > 0) expect(plain.draws).toBeGreaterThanOrEqual(10_000);
          },
        ),
        { numRuns: 12 },
      );
    });

    test('the scale is that of what is left, drawn toward the known variances', () => {
      // Source: Smyth, Statistical Applications in Genetics and Molecular Biology 3 (2004), formula for the moderated t (from memory); jstat for its distribution.
      const normal = randomNormal.source(randomLcg(0.61))();
      const [each, sd] = [20, 2];
      const given = Array.from({ length: 2 * each }, (_, i): Unit => {
        const first = i % 2 === 0;
        return { value: (first ? 0.9 : 0) + sd * normal(), weight: 1, block: 0, first };
      });
      const meanOf = (half: boolean) =>
        given.filter(({ first }) => first === half).reduce((sum, { value }) => sum + value, 0) / each;
      const squares = given.reduce((sum, { value, first }) => sum + (value - meanOf(first)) ** 2, 0);
      const own = 2 * each - 2;
      for (const priorFreedom of [0, 40, 400]) {
        const t =
          (meanOf(true) - meanOf(false)) /
          Math.sqrt(((squares + priorFreedom) / (own + priorFreedom)) * (2 / each));
        const p = 2 * (1 - (jstat.studentt.cdf(t, own + priorFreedom) as number));
        const { twoSided } = randomisationTest(given, 0.9, new Draws(3), {
          share: 0.9999,
          error: 0,
          priorFreedom,
        });
        expect(Math.abs(twoSided - p)).toBeLessThan(0.015);
      }
    });

    test('where nothing was done, one in ten is called, and what is known of the variances finds more of what was', () => {
      const normal = randomNormal.source(randomLcg(0.37))();
      const [common, own, rounds] = [0.05, 0.12, 200];
      const called = { known: 0, unknown: 0 };
      const found = { known: 0, unknown: 0 };
      for (let round = 0; round < rounds; round++) {
        const missed = common * normal();
        const given = Array.from({ length: 8 }, (_, i): Unit => ({
          ...{ value: missed + own * normal(), weight: 1 / own ** 2, block: 0, first: i % 2 === 0 },
        }));
        const lifted = given.map((unit) => (unit.first ? { ...unit, value: unit.value + 0.2 } : unit));
        // The waiting four and what lies outside, each by one over its variance.
        const share = common ** 2 / (common ** 2 + own ** 2 / 4);
        const error = (1 - share) * Math.hypot(common, own / Math.sqrt(8));
        for (const how of ['known', 'unknown'] as const) {
          const outside = { share, error, priorFreedom: how === 'known' ? 60 : 0 };
          const isCalled = (units: Unit[]) =>
            Number(randomisationTest(units, 0.9, new Draws(1), outside).twoSided <= 0.1);
          called[how] += isCalled(given);
          found[how] += isCalled(lifted);
        }
      }
      // Three standard errors of a share of one in ten, of so many rounds.
      expect(Math.abs(called.known / rounds - 0.1)).toBeLessThan(0.064);
      expect(Math.abs(called.unknown / rounds - 0.1)).toBeLessThan(0.064);
      expect(found.known).toBeGreaterThan(found.unknown + 0.03 * rounds);
    });
  });

  test('a half without a unit is refused', () => {
    expect(() => randomisationTest(cups([1, 1, 1, 1, 0, 0, 0, 0]).slice(0, 4), 0.9, new Draws(1))).toThrow(
      RangeError,
    );
  });
});

test('false discoveries, Benjamini and Hochberg 1995', () => {
  const values = [
    ...[0.0001, 0.0004, 0.0019, 0.0095, 0.0201, 0.0278, 0.0298, 0.0344, 0.0459, 0.324],
    ...[0.4262, 0.5719, 0.6528, 0.759, 1],
  ];
  expect(falseDiscovery(values, 0.05).filter(Boolean)).toHaveLength(4);
  expect(adjusted([0.01, 0.04, 0.03])).toEqual([
    expect.closeTo(0.03),
    expect.closeTo(0.04),
    expect.closeTo(0.04),
  ]);
  expect(falseDiscovery([], 0.05)).toEqual([]);
  expect(() => adjusted([1.2])).toThrow(RangeError);
});

test('shrinkage of many means, Efron and Morris 1975', () => {
  // Eighteen batting averages after 45 times at bat; data from memory.
  const averages = [
    ...[0.4, 0.378, 0.356, 0.333, 0.311, 0.311, 0.289, 0.267, 0.244],
    ...[0.244, 0.222, 0.222, 0.222, 0.222, 0.222, 0.2, 0.178, 0.156],
  ];
  const mean = averages.reduce((a, b) => a + b, 0) / 18;
  const factor = efronMorrisFactor(averages, (mean * (1 - mean)) / 45);
  expect(factor).toBeCloseTo(0.2124, 3);
  expect(mean + factor * (0.4 - mean)).toBeCloseTo(0.294, 3);
  expect(() => efronMorrisFactor([1, 2], 1)).toThrow(RangeError);
});

test('an estimate of much noise is drawn far, one of none stays', () => {
  const [noisy, plain] = shrunken([1, 1], [100, 1e-9], { mean: 0, between: [1], standardError: 0 });
  expect(noisy!.mean).toBeCloseTo(1 / 101, 9);
  expect(plain!.mean).toBeCloseTo(1, 6);
  expect(
    shrunken([0.4, 0], [0.1, 0.1], { mean: 0.2, between: [0.1], standardError: 0 })[0]!.mean,
  ).toBeCloseTo(0.3, 12);
});
