import { asDay } from '../calendar/day';
import { estimateOf } from '../effect/effect';
import { Z90 } from '../statistics/normal';
import { ENGLISH } from '../words/stems';
import { forecastScores, openingScore, type Forecast } from './forecasts';
import { markEffects } from './marks';
import { measureOf, scoredEffect, type Scored } from './scorebookModel';
import { poolScores } from './pool';
import { adjustedRange, expectedFalse, ranked, winnersAndLosers } from './ranked';
import { scoreLines } from './scorebook';
import { lineSentence } from './scorebookSentence';
import { commonMarks, titleChangeMarks } from './titleChange';

/** An effect with a standard error and its range, without a margin. */
const effect = (net: number, error: number, shared = 0) => ({
  ...{ net, low: net - Z90 * error, high: net + Z90 * error },
  ...{ variance: error ** 2, shared },
});

const scored = (id: number, net: number, error: number, more: Partial<Scored> = {}): Scored => ({
  ...{ siteId: 1, changeId: id, roundId: null, title: `change ${id}`, pages: 1 },
  // Days apart from each other.
  after: { firstDay: asDay(1000 * id), lastDay: asDay(1000 * id + 27) },
  ...{
    kind: 'title-rewrite',
    tags: [],
    person: null,
    groups: [],
    marks: [],
    verdict: 'unclear',
    counted: null,
  },
  estimates: { appeal: effect(net, error), clicks: effect(net, error) },
  ...more,
});

// The 13 trials of dat.bcg, as log risk ratios with their variances (metafor's documentation).
const BCG: readonly (readonly [number, number])[] = [
  [-0.8893, 0.3256],
  [-1.5854, 0.1946],
  [-1.3481, 0.4154],
  [-1.4416, 0.02],
  [-0.2175, 0.0512],
  [-0.7861, 0.0069],
  [-1.6209, 0.223],
  [0.012, 0.004],
  [-0.4694, 0.0564],
  [-1.3713, 0.073],
  [-0.3394, 0.0124],
  [0.4459, 0.5325],
  [-0.0173, 0.0714],
];

describe('pooling', () => {
  const book = BCG.map(([net, variance], i) => scored(i, net, Math.sqrt(variance)));

  test('is that of the BCG trials by metafor, at nine in ten', () => {
    const pooled = poolScores(book, 'appeal')!;
    expect(pooled.net).toBeCloseTo(-0.7141, 3);
    expect(pooled.spread ** 2).toBeCloseTo(0.3088, 3);
    expect(pooled.standardError).toBeCloseTo(0.1807, 3);
    // t with 12 degrees of freedom at .95 is 1.7823.
    expect(pooled.high - pooled.net).toBeCloseTo(1.7823 * 0.1807, 3);
    // The next one by R, see spread.test.ts; 25 values stand for the posterior.
    expect(pooled.next!.low).toBeCloseTo(-1.7256, 2);
    expect(pooled.next!.high).toBeCloseTo(0.2904, 2);
  });

  test('takes estimates without the margin of their ranges, and keeps the ranges', () => {
    const estimate = estimateOf(0.2, 0.1, 1.02 * 1.7, 0.004);
    const { net, low, high, variance, shared } = scoredEffect(estimate);
    expect([net, low, high]).toEqual([0.2, estimate.low, estimate.high]);
    expect(variance).toBeCloseTo((0.1 * (1.7 / Z90)) ** 2, 12);
    expect(shared).toBeCloseTo(0.004 * (1.7 / Z90) ** 2, 12);
  });

  test('says less where the same control stood against several in the same days', () => {
    const shared = (together: boolean) =>
      [0.1, 0.2, 0.3, 0.15].map((net, i) =>
        scored(i, net, 0.1, {
          after: { firstDay: asDay(together ? 0 : 1000 * i), lastDay: asDay((together ? 0 : 1000 * i) + 27) },
          estimates: { appeal: effect(net, 0.1, 0.004), clicks: null },
        }),
      );
    const [apart, near] = [poolScores(shared(false), 'appeal')!, poolScores(shared(true), 'appeal')!];
    expect(near.net).toBeCloseTo(apart.net, 12);
    // Twelve ordered pairs of four with a sixteenth of the weight each.
    expect(near.standardError ** 2 - apart.standardError ** 2).toBeCloseTo((12 / 16) * 0.004, 9);
  });

  test('of one is the one, of two tells nothing of the next, of none is none', () => {
    expect(poolScores([scored(1, 0.2, 0.1)], 'appeal')).toMatchObject({ net: 0.2, counted: 1, next: null });
    expect(poolScores([scored(1, 0.2, 0.1), scored(2, 0.1, 0.1)], 'appeal')!.next).toBeNull();
    expect(poolScores([], 'clicks')).toBeNull();
  });

  test('is of appeal only where all are about it', () => {
    expect(measureOf([scored(1, 0, 1)])).toBe('appeal');
    expect(measureOf([scored(1, 0, 1), scored(2, 0, 1, { kind: 'headings' })])).toBe('clicks');
  });
});

describe('lines', () => {
  const list = [
    scored(1, 0.3, 0.05, { verdict: 'lifted', tags: ['spring'], person: 'IK' }),
    scored(2, -0.2, 0.05, { verdict: 'dropped', person: 'IK' }),
    scored(3, 0.01, 0.05, { verdict: 'held', tags: ['spring', 'shop'] }),
    scored(4, 0.1, 0.05, { roundId: 9, changeId: null, kind: 'headings' }),
  ];

  test('count verdicts by kind, tag and person, the most first', () => {
    const [titles, headings] = scoreLines(list, 'kind');
    expect(titles).toMatchObject({
      ...{ key: 'title-rewrite', name: 'Title rewrites', changes: 3, rounds: 0 },
      ...{ lifted: 1, dropped: 1, held: 1, unclear: 0 },
    });
    expect(headings).toMatchObject({ changes: 1, rounds: 1, unclear: 1 });
    expect(scoreLines(list, 'tag').map(({ key, changes }) => [key, changes])).toEqual([
      ['spring', 2],
      ['shop', 1],
    ]);
    expect(scoreLines(list, 'person').map(({ key }) => key)).toEqual(['IK']);
  });

  test('are said in a sentence', () => {
    const [titles] = scoreLines(
      [0.02, 0.06, 0.1, 0.05, 0.07].map((net, i) => scored(i, net, 0.03)),
      'kind',
    );
    expect(lineSentence('Title rewrites', titles!)).toMatch(
      /^Title rewrites: 5 read, chosen 6% more often on the whole \(\+\d+% to \+\d+%\); the next one will most likely bring between [+−]?\d+% and \+\d+%\.$/,
    );
    expect(
      lineSentence('Headings', scoreLines([scored(1, -0.1, 0.02, { kind: 'headings' })], 'kind')[0]!),
    ).toBe(
      'Headings: 1 read, 10% fewer clicks (−12% to −6%); 1 change of the kind says little of the next one.',
    );
  });
});

describe('winners and losers', () => {
  test('are drawn toward their kind, the noisy ones most', () => {
    const list = [
      scored(1, 0.5, 0.3),
      scored(2, 0.4, 0.05),
      ...[0, 0.05, -0.05, 0.1].map((net, i) => scored(10 + i, net, 0.05)),
    ];
    const order = ranked(list);
    expect(order[0]!.scored.changeId).toBe(2);
    const mean = poolScores(list, 'appeal')!.net;
    const kept = (id: number) => {
      const { shrunken, raw } = order.find((one) => one.scored.changeId === id)!;
      return (shrunken - mean) / (raw - mean);
    };
    expect(kept(1)).toBeLessThan(0.45);
    expect(kept(1)).toBeGreaterThan(0);
    expect(kept(2)).toBeGreaterThan(0.9);
    for (const one of order) expect(Math.abs(one.shrunken)).toBeLessThan(0.5);
  });

  test('what adjustment leaves open is neither a winner nor a loser', () => {
    // Its own range excludes no effect; among six that plainly won, what is left of it reaches across nought.
    const list = [
      { ...scored(1, -0.2, 0.11), verdict: 'dropped' as const },
      ...[0.25, 0.3, 0.28, 0.26, 0.31, 0.29].map((net, i) => ({
        ...scored(10 + i, net, 0.04),
        verdict: 'lifted' as const,
      })),
      { ...scored(30, 0.3, 0.04), verdict: 'unclear' as const },
    ];
    const all = ranked(list);
    const { winners, losers, rest } = winnersAndLosers(all);
    expect(losers).toEqual([]);
    expect(winners.map(({ scored: one }) => one.changeId).sort()).toEqual([10, 11, 12, 13, 14, 15]);
    for (const one of winners) expect(adjustedRange(one).low).toBeGreaterThan(0);
    expect(winners.map(({ shrunken }) => shrunken)).toEqual(
      winners.map(({ shrunken }) => shrunken).sort((a, b) => b - a),
    );
    // What was read as inconclusive is no winner, however large.
    expect(rest.map(({ scored: one }) => one.changeId).sort()).toEqual([1, 30]);
  });

  test('their expected share of false ones is that of Benjamini and Hochberg', () => {
    expect(expectedFalse([0.01, 0.02, 0.9, 0.8])).toBeCloseTo(0.04, 12);
    expect(expectedFalse([0.5, 0.6])).toBeNull();
    expect(expectedFalse([])).toBeNull();
  });
});

describe('marks of a change of title', () => {
  const change = (oldText: string, newText: string, target: string | null = null) =>
    titleChangeMarks({ oldText, newText, target, address: 'https://www.quillow-bees.example/x/' }, ENGLISH);

  test('are what the new one has', () => {
    expect(change('Feeding bees', 'Feeding bees in 2026 (with a table)')).toEqual(['year', 'brackets']);
    expect(change('Feeding bees', 'How do I feed 3 hives?')).toEqual(['number', 'question']);
    expect(change('Feeding bees in winter | Quillow Bee Yard', 'Feeding bees in winter')).toEqual([
      'brand-dropped',
      'shorter',
    ]);
    expect(change('All you need to feed bees', 'Feeding bees: all you need', 'feed bees')).toEqual([
      'target-to-front',
    ]);
    expect(change('Feeding bees', 'Feeding bees')).toEqual([]);
  });

  test('of several pages are those of half of them', () => {
    const one = (newText: string) => ({
      ...{ oldText: 'Bees', newText, address: 'https://www.quillow-bees.example/', target: null },
    });
    expect(commonMarks([one('Bees 2026'), one('Bees 2026?'), one('Bees')], ENGLISH)).toEqual(['year']);
    expect(commonMarks([], ENGLISH)).toEqual([]);
  });

  test('are regressed only with ten on either side, and drawn toward nothing', () => {
    const list = (count: number) =>
      Array.from({ length: count }, (_, i) =>
        scored(i, i % 2 === 0 ? 0.3 : 0.1, 0.05, { marks: i % 2 === 0 ? ['year'] : [] }),
      );
    expect(markEffects(list(18), 0.01)).toEqual([]);
    const [year] = markEffects(list(40), 0.01);
    expect(year).toMatchObject({ mark: 'year', changes: 20 });
    expect(year!.net).toBeGreaterThan(0.15);
    expect(year!.net).toBeLessThan(0.2);
    expect(year!.low).toBeGreaterThan(0);
  });
});

test('forecasts are held against what came', () => {
  const one = (
    person: string | null,
    outcome: Forecast['outcome'],
    expected: number | null,
    came: number | null,
  ) => ({
    ...{ person, kind: 'headings', outcome, expected, came },
  });
  const list = [
    one('IK', 'met', 0.2, 0.3),
    one('IK', 'not-met', 0.2, 0),
    one('IK', 'cannot-be-told', null, 0.1),
    one(null, 'met', 0.1, 0.1),
  ];
  expect(forecastScores(list, 'person')).toEqual([
    { key: 'IK', forecasts: 3, met: 1, notMet: 1, cannotBeTold: 1, expected: 0.2, came: 0.15 },
    { key: '', forecasts: 1, met: 1, notMet: 0, cannotBeTold: 0, expected: 0.1, came: 0.1 },
  ]);
  expect(forecastScores(list, 'kind')).toHaveLength(1);
  expect(openingScore([])).toBeNull();
  expect(
    openingScore([
      { estimated: 40, low: 20, high: 60, came: 30 },
      { estimated: 10, low: 5, high: 15, came: -4 },
    ]),
  ).toEqual({ openings: 2, estimated: 50, came: 26, within: 1 });
});
