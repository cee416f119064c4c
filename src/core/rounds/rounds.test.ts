import { byMeasure } from '../measures/registry';
import { estimateOf } from '../effect/effect';
import fc from 'fast-check';
import { Draws } from '../statistics/draws';
import { drawnHalves } from './draw';
import { roundEffect, type RoundPage } from './effect';
import { likeBlocks, PAIRS_A_BLOCK, type Likeness } from './blocks';
import { missedVariance } from './yardstick';
import { pagesPerHalf, powerOf, smallestEffect } from './plan';

const like = (pageId: number, clicks: number, group = 0, dip = 0): Likeness => ({
  pageId,
  clicks,
  group,
  dip,
});

test('like pages stand in one block: of one size, one group, one dip', () => {
  // Six pairs are too many for one block, so there are two of three.
  const sizes = [900, 800, 700, 60, 50, 40];
  const ofBlocks = (other: (at: number) => Likeness) =>
    likeBlocks(sizes.flatMap((clicks, i) => [like(i + 1, clicks), other(i)])).map((block) =>
      [...block].sort((a, b) => a - b),
    );
  expect(ofBlocks((i) => like(i + 11, sizes[i]! - 1))).toEqual([
    [1, 2, 3, 11, 12, 13],
    [4, 5, 6, 14, 15, 16],
  ]);
  // Those that dipped find each other, though their sizes are not the nearest.
  const [first] = likeBlocks([
    ...Array.from({ length: 6 }, (_, i) => like(i + 1, 900 - i, 0, i < 5 ? -0.6 : 0)),
    ...Array.from({ length: 6 }, (_, i) => like(i + 11, 899 - i, 1)),
  ]);
  expect(first!.slice(0, 2)).toEqual([1, 2]);
  expect(likeBlocks([like(1, 9), like(2, 8), like(3, 7), like(4, 6), like(5, 5)])).toEqual([[1, 2, 3, 4, 5]]);
  expect(likeBlocks([like(1, 9)])).toEqual([[1]]);
  const many = likeBlocks(Array.from({ length: 47 }, (_, i) => like(i, i)));
  for (const block of many) expect(block.length).toBeLessThanOrEqual(2 * PAIRS_A_BLOCK + 1);
  expect(many.flat()).toHaveLength(47);
});

const pages = fc.uniqueArray(
  fc.record({
    pageId: fc.integer({ min: 1, max: 500 }),
    clicks: fc.integer({ min: 0, max: 2000 }),
    group: fc.integer({ min: 0, max: 3 }),
    dip: fc.double({ min: -1, max: 1, noNaN: true }),
  }),
  { selector: ({ pageId }) => pageId, minLength: 2, maxLength: 40 },
);

test('every page is in one half, halves differ by one page at most, and a seed brings the same draw again', () => {
  fc.assert(
    fc.property(pages, fc.integer({ min: 0, max: 2 ** 31 }), (given, seed) => {
      const blocks = likeBlocks(given);
      expect(likeBlocks([...given].reverse())).toEqual(blocks);
      const { first, second } = drawnHalves(blocks, seed);
      expect([...first, ...second].sort((a, b) => a - b)).toEqual(
        given.map(({ pageId }) => pageId).sort((a, b) => a - b),
      );
      expect(Math.abs(first.length - second.length)).toBeLessThanOrEqual(1);
      expect(drawnHalves(blocks, seed)).toEqual({ first, second });
    }),
  );
});

test('of any number of odd blocks the halves differ by one page at most, and no page is favoured', () => {
  const blocks = [[1, 2, 3], [4, 5, 6, 7, 8], [9], [10, 11]];
  const first = new Map<number, number>();
  for (let seed = 0; seed < 4000; seed++) {
    const halves = drawnHalves(blocks, seed);
    expect(Math.abs(halves.first.length - halves.second.length)).toBeLessThanOrEqual(1);
    for (const page of halves.first) first.set(page, (first.get(page) ?? 0) + 1);
  }
  for (let page = 1; page <= 11; page++) expect(Math.abs((first.get(page) ?? 0) - 2000)).toBeLessThan(200);
});

test('each page goes first as often as not, also for seeds that lie near each other', () => {
  const blocks = [
    [1, 2],
    [3, 4],
  ];
  const count = new Map<string, number>();
  for (let seed = 0; seed < 4000; seed++) {
    const { first } = drawnHalves(blocks, seed);
    const key = first.join('+');
    count.set(key, (count.get(key) ?? 0) + 1);
  }
  expect(count.size).toBe(4);
  for (const n of count.values()) expect(Math.abs(n - 1000)).toBeLessThan(150);
});

test('how many pages are needed, and what so many could see, are one question', () => {
  // 2(1.645 + 0.842)² / (ln²(1.15) / 0.04) = 25.3; a page more, since the test is one of a draw.
  expect(pagesPerHalf(0.15, [0.04, 0.04])).toBe(27);
  expect(smallestEffect(26, [0.04])).toBeCloseTo(0.15, 2);
  expect(powerOf(0.15, 27, [0.04])).toBeGreaterThanOrEqual(0.8);
  expect(powerOf(0.15, 26, [0.04])).toBeLessThan(0.8);
  // Few pages ask for more than the normal distribution says: t with four degrees of freedom at .95 is 2.132.
  expect(smallestEffect(3, [0.04])).toBeCloseTo(Math.expm1((2.132 + 0.8416) * 0.2 * Math.sqrt(2 / 3)), 2);
  expect(pagesPerHalf(0.3, [])).toBe(Infinity);
  expect(smallestEffect(0, [0.1])).toBe(Infinity);
  expect(() => pagesPerHalf(0, [0.1])).toThrow(RangeError);
});

test('with the site’s untouched pages in the control fewer pages do, the fewer the less these miss', () => {
  const variances = [0.04, 0.04];
  const needed = [0, 0.0005, 0.002, 0.01, 1].map((common) => pagesPerHalf(0.15, variances, common));
  expect([...needed].sort((a, b) => a - b)).toEqual(needed);
  // Against a yardstick without error: (1.645 + 0.842)² / (ln²(1.15) / 0.04) = 12.7, and one or two for the draw; against one that says nothing, the halves alone.
  expect(needed[0]).toBeGreaterThanOrEqual(13);
  expect(needed[0]).toBeLessThanOrEqual(14);
  // Where they miss everything what is known of the variances is left, which saves a page.
  expect(needed.at(-1)).toBe(pagesPerHalf(0.15, variances) - 1);
  expect(powerOf(0.15, 10, variances, 0.002)).toBeGreaterThan(powerOf(0.15, 10, variances));
  expect(smallestEffect(10, variances, 0.002)).toBeLessThan(smallestEffect(10, variances));
});

test('the yardstick is taken as the past tells it, until the waiting half says otherwise', () => {
  const own = 0.0015;
  const missed = [0, 0.05, 0.1, 0.2, 0.4, 40].map((moved) => missedVariance({ moved, own }, 0.0015));
  expect([...missed].sort((a, b) => a - b)).toEqual(missed);
  // Within what the past tells it counts about as the past says.
  expect(missed[0]).toBeLessThan(0.002);
  expect(missed[1]).toBeLessThan(0.003);
  expect(missed[3]).toBeGreaterThan(0.03);
  expect(missed.at(-1)).toBeCloseTo(0.04, 12);
  expect(missedVariance({ moved: 0.4, own }, 0.3)).toBe(0.3);
});

describe('the effect of a round', () => {
  const estimate = (net: number, standardError: number) => estimateOf(net, standardError, 1.7);
  const NONE = byMeasure(() => null);
  const page = (
    pageId: number,
    block: number,
    first: boolean,
    net: number | null,
    error = 0.1,
  ): RoundPage => ({
    ...{ pageId, block, first },
    effects: { ...NONE, appeal: net === null ? null : estimate(net, error) },
  });

  test('is the difference of the halves, and certain where every pair says the same', () => {
    const pages = Array.from({ length: 8 }, (_, i) => [
      page(2 * i, i, true, 0.2 + 0.01 * i),
      page(2 * i + 1, i, false, 0.01 * i),
    ]).flat();
    const found = roundEffect(pages, 'appeal', new Draws(1))!;
    expect(found.net).toBeCloseTo(0.2, 12);
    // Of 2⁸ draws only the one that was made and its mirror are as far apart.
    expect(found.p).toBeCloseTo(2 / 256, 12);
    expect(found.low).toBeGreaterThan(0.1);
    expect(found).toMatchObject({ pages: 16, exact: true });
    expect(roundEffect(pages, 'clicks', new Draws(1))).toBeNull();
  });

  test('weighs pages by how well they are known, and leaves out pairs of which one half has no figures', () => {
    const known = [
      ...[page(1, 0, true, 0.3, 0.05), page(2, 0, false, 0, 0.05)],
      ...[page(3, 1, true, -1, 10), page(4, 1, false, 1, 10)],
    ];
    expect(roundEffect(known, 'appeal', new Draws(1))!.net).toBeCloseTo(0.3, 3);
    const lacking = [...known, page(5, 2, true, 5), page(6, 2, false, null)];
    expect(roundEffect(lacking, 'appeal', new Draws(1))).toEqual(roundEffect(known, 'appeal', new Draws(1)));
    expect(roundEffect(known.slice(0, 2), 'appeal', new Draws(1))).toBeNull();
  });

  describe('with the site’s untouched pages in the control', () => {
    const of = (waiting: number) =>
      Array.from({ length: 20 }, (_, i) =>
        page(i, 0, i % 2 === 0, (i % 2 === 0 ? 0.14 : waiting) + 0.03 * ((i % 5) - 2)),
      );

    test('counts the waiting half by how much these miss', () => {
      const shares = [0.0001, 0.001, 0.01, 1e6].map(
        (variance) => roundEffect(of(0), 'appeal', new Draws(1), variance)!.waiting,
      );
      expect([...shares].sort((a, b) => a - b)).toEqual(shares);
      expect(shares[0]).toBeLessThan(0.5);
      const alone = roundEffect(of(0), 'appeal', new Draws(1))!;
      expect(alone).toMatchObject({ waiting: 1, shared: 0 });
      const nothing = roundEffect(of(0), 'appeal', new Draws(1), 1e6)!;
      expect(nothing).toMatchObject({ waiting: expect.closeTo(1, 6), net: expect.closeTo(alone.net, 6) });
      expect(nothing.p).toBeCloseTo(alone.p, 2);
    });

    test('is the first half’s own move, less what the waiting half did as far as it counts', () => {
      const found = roundEffect(of(-0.02), 'appeal', new Draws(1), 0.001)!;
      expect(found.net).toBeCloseTo(0.14 + 0.02 * found.waiting, 9);
      expect(found.low).toBeLessThan(found.net);
      expect(found.high).toBeGreaterThan(found.net);
    });

    test('leaves them out nearly where the waiting half moved as nothing before suggests', () => {
      const found = roundEffect(of(0.14), 'appeal', new Draws(1), 0.0002)!;
      expect(found.waiting).toBeGreaterThan(0.9);
      expect(found.low).toBeLessThan(0);
      const fell = roundEffect(of(-0.5), 'appeal', new Draws(1), 0.0002)!;
      expect(fell.waiting).toBeGreaterThan(0.9);
      expect(roundEffect(of(40), 'appeal', new Draws(1), 0.0002)!.waiting).toBeGreaterThan(0.9);
    });
  });
});
