import { randomLcg, randomPoisson } from 'd3-random';
import { positionCurve } from '../appeal/positionCurve';
import type { PageEvidence } from '../model/evidence';
import { ENGLISH } from '../words/stems';
import { appealPosterior, appealPrior, dispersionOf, gammaMean, gammaQuantile } from './appealPosterior';
import { pageWords, saidOn } from '../words/termsOnPage';
import { openingSentence } from './openingSentence';
import { expectedGain } from './expectedGain';
import { sharedQuery } from './competingPages';
import { siteAppeal } from './site';
import { takeOnQuery } from './takeOn';
import { gainOfAppeal } from './tooLittle';
import { LinkIndex } from './unlinked';
import { lackingConversions, shareOfRevenue } from './visited';
import { gainOfPosition, rulesOfThumb, targetPosition } from './withinReach';

const PRIOR = { shape: 9, rate: 9, dispersion: 1 };

test('a page of few clicks is held near the others, one of many stands for itself', () => {
  expect(gammaMean(appealPosterior(PRIOR, { clicks: 0, expected: 4 }))).toBeCloseTo(0.692, 3);
  expect(gammaMean(appealPosterior(PRIOR, { clicks: 500, expected: 1000 }))).toBeCloseTo(0.504, 3);
  // The median of an exponential distribution is ln 2.
  expect(gammaQuantile({ shape: 1, rate: 1 }, 0.5)).toBeCloseTo(Math.LN2, 6);
});

test('the spread of pages is found again', () => {
  const values = [0.5, 0.7, 0.9, 1, 1.1, 1.3, 1.6];
  const wide = appealPrior(
    values.map((a) => ({ clicks: 1000 * a, expected: 1000 })),
    1,
  );
  expect(wide.shape / wide.rate).toBeCloseTo(values.reduce((a, b) => a + b) / 7, 1);
  expect(wide.shape).toBeLessThan(20);
  const narrow = appealPrior(
    values.map(() => ({ clicks: 1000, expected: 1000 })),
    1,
  );
  expect(narrow.shape).toBeGreaterThan(100);
  expect(
    dispersionOf([
      [
        { clicks: 10, expected: 10 },
        { clicks: 10, expected: 10 },
      ],
    ]),
  ).toBe(1);
});

test('what a page would gain grows with what it lacks, and is nothing where it lacks nothing', () => {
  const gain = gainOfAppeal(PRIOR, { clicks: 100, expected: 200 }, 1);
  expect(gain.clicks).toBeCloseTo(95.7, 1);
  expect(gain.low).toBeLessThan(gain.clicks);
  expect(gain.high).toBeGreaterThan(gain.clicks);
  expect(gainOfAppeal(PRIOR, { clicks: 400, expected: 200 }, 1).clicks).toBe(0);
  // A page's CTR doubling at the same impressions doubles its clicks (common practice, no published source).
  expect(
    gainOfAppeal({ ...PRIOR, shape: 1e-9, rate: 1e-9 }, { clicks: 100, expected: 200 }, 1).clicks,
  ).toBeCloseTo(100, 3);
});

test('positions within reach, and the rules of thumb beside them', () => {
  expect([3, 5, 9, 12, 20, 25].map(targetPosition)).toEqual([null, 2, 6, 8, 8, null]);
  // Common practice, no published source: crude potential is impressions × position; all impressions at 20% less the clicks.
  expect(rulesOfThumb({ clicks: 3, impressions: 1000, position: 12 })).toEqual({
    potential: 12_000,
    ceiling: 197,
  });
  const curve = positionCurve([]);
  const appeal = {
    prior: PRIOR,
    page: { clicks: 100, expected: 100 },
    own: { clicks: 3, expected: 3 },
    spread: 0.2,
  };
  const shown = { impressions: 1000, position: 12 };
  const gain = gainOfPosition(shown, 8, curve, appeal, 1);
  expect(gain.clicks).toBeCloseTo(1000 * (curve(8) - curve(12)), 0);
  expect(gain.low).toBeLessThan(gain.clicks);
  expect(gainOfPosition(shown, 8, curve, appeal, 2).clicks).toBeCloseTo(gain.clicks / 2, 9);
});

test('searches for the site itself and what is withheld count as they should', () => {
  const pair = { pageId: 1, queryId: 1, clicks: 5, impressions: 100, position: 3, expected: 10 };
  const site = siteAppeal(
    [
      { ...pair, brand: false },
      { ...pair, queryId: 2, brand: true, clicks: 90 },
    ],
    { rest: new Map([[1, { clicks: 1, expected: 2 }]]), days: [] },
    positionCurve([]),
  );
  expect(site.byPage.get(1)).toEqual({ clicks: 6, expected: 12 });
  expect(site.level).toBeCloseTo(0.5);
});

const PAGE = {
  title: 'Wax colors for candles',
  description: null,
  headings: [
    { level: 1, text: 'Candles' },
    { level: 2, text: 'Moulds' },
  ],
  text: 'Dyeing beeswax in winter. A candle needs a wick.',
} as unknown as PageEvidence;

test('singular and plural and both spellings count as said, and are told apart', () => {
  const words = pageWords(PAGE);
  expect(saidOn(words, 'wax colours')).toEqual({ where: 'title', missing: [], otherwise: true });
  expect(saidOn(words, 'candle')).toMatchObject({ where: 'title', otherwise: false });
  expect(saidOn(words, 'molds')).toMatchObject({ where: 'heading', otherwise: true });
  expect(saidOn(words, 'the wick of winter')).toMatchObject({ where: 'text', missing: [] });
  expect(saidOn(words, 'candle wick tabs')).toMatchObject({ where: 'parts', missing: ['tabs'] });
  expect(saidOn(words, 'smoker')).toMatchObject({ where: 'nowhere' });
  expect(ENGLISH.stem('organise')).toBe(ENGLISH.stem('organizing'));
  expect(ENGLISH.stem('hour')).not.toBe(ENGLISH.stem('hor'));
});

test('pages that take turns share a query; one that owns it, or two side by side, do not', () => {
  const days = (shown: readonly number[], position: number) =>
    shown.flatMap((impressions, day) => (impressions > 0 ? [{ day, impressions, position }] : []));
  const page = (pageId: number, shown: number[], position: number) => ({
    ...{ pageId, clicks: 0, position, days: days(shown, position) },
    impressions: shown.reduce((a, b) => a + b, 0),
  });
  const found = sharedQuery([page(1, [9, 9, 0, 0, 9, 9, 0, 0], 4), page(2, [0, 0, 8, 8, 0, 0, 8, 8], 6)]);
  expect(found).toMatchObject({ turns: 3, together: 0 });
  expect(found!.pages.map(({ pageId, led }) => [pageId, led])).toEqual([
    [1, 0.5],
    [2, 0.5],
  ]);
  expect(sharedQuery([page(1, [9, 9, 9, 9], 4), page(2, [1, 0, 0, 0], 6)])).toBeNull();
  expect(sharedQuery([page(1, [9, 9, 9, 9, 9, 9], 1), page(2, [8, 8, 8, 8, 8, 9], 2)])).toBeNull();
  expect(sharedQuery([page(1, [9, 0, 9, 0, 9, 0], 4), page(2, [0, 8, 0, 8, 0, 8], 30)])).toBeNull();
});

describe('pages that take turns against pages side by side, planted', () => {
  const DAYS = 180;
  const PLANTED = 200;
  /** Impressions of two pages day by day, of which the first has `shareOn` of what there is. */
  const planted = (seed: number, size: number, shareOn: (day: number, next: () => number) => number) => {
    const next = randomLcg(seed);
    const counted = randomPoisson.source(next);
    const days: [number[], number[]] = [[], []];
    for (let day = 0; day < DAYS; day++) {
      const share = shareOn(day, next);
      days[0].push(counted(size * share)());
      days[1].push(counted(size * (1 - share))());
    }
    return [days[0], days[1]] as const;
  };
  const pageOf = (pageId: number, shown: readonly number[]) => ({
    ...{ pageId, clicks: 0, position: 5 + pageId, impressions: shown.reduce((sum, n) => sum + n, 0) },
    days: shown.flatMap((impressions, day) => (impressions > 0 ? [{ day, impressions, position: 6 }] : [])),
  });
  const found = (size: number, shareOn: Parameters<typeof planted>[2]) =>
    Array.from({ length: PLANTED }, (_, i) => {
      const [a, b] = planted((i + 0.5) / PLANTED, size, shareOn);
      return sharedQuery([pageOf(1, a), pageOf(2, b)]) !== null;
    }).filter(Boolean).length / PLANTED;
  const everySixDays = (high: number) => (day: number) => (Math.floor(day / 6) % 2 === 0 ? high : 1 - high);

  test.each([
    ['every six days, both shown on all of them', 30, everySixDays(0.8)],
    ['every six days, less plainly', 60, everySixDays(0.7)],
    ['every six days, few impressions', 4, everySixDays(0.85)],
    ['every six days, one of them absent', 8, everySixDays(1)],
    ['every day', 20, (day: number) => (day % 2 === 0 ? 0.9 : 0.1)],
    ['whenever', 20, (_day: number, next: () => number) => (next() < 0.5 ? 0.85 : 0.15)],
  ] as const)('turns %s are found', (_name, size, shareOn) => {
    expect(found(size, shareOn)).toBeGreaterThanOrEqual(0.95);
  });

  test.each([
    ['side by side, alike', 30, () => 0.5],
    ['side by side, alike, few impressions', 3, () => 0.5],
    ['one above the other', 30, () => 0.65],
    ['one above the other, few impressions', 3, () => 0.65],
    ['swinging a little from day to day', 30, (_day: number, next: () => number) => 0.4 + 0.2 * next()],
    ['one that replaced the other', 30, (day: number) => (day < 90 ? 0.95 : 0.05)],
  ] as const)('%s is not called', (_name, size, shareOn) => {
    expect(found(size, shareOn)).toBeLessThanOrEqual(0.02);
  });
});

test('visits without conversions count only beyond what chance allows', () => {
  // Newcombe (1998): 0 of 20 leaves up to 0.1611 open at 95%.
  expect(lackingConversions({ sessions: 20, conversions: 0 }, 0.16)).toBeNull();
  expect(lackingConversions({ sessions: 20, conversions: 0 }, 0.17)).toMatchObject({
    conversions: expect.closeTo(3.4, 9),
  });
  expect(lackingConversions({ sessions: 1000, conversions: 30 }, 0.02)).toBeNull();
  // Common practice, no published source: 800 of 29,000 is about 3%.
  expect(shareOfRevenue(800, 29_000)).toBeCloseTo(0.0276, 4);
});

test('pages that speak of the same and do not link are found, with words for the link', () => {
  const page = (pageId: number, title: string, text: string, ...linksTo: number[]) => ({
    pageId,
    title,
    text,
    linksTo: new Set(linksTo),
  });
  const found = new LinkIndex([
    page(1, 'Smoker fuel', 'Smoker fuel burns slowly. Fuel for a smoker is dry.'),
    page(2, 'Lighting', 'A smoker needs fuel, and fuel for smokers is pine.'),
    page(3, 'Honey jars', 'Jars and lids.', 1),
  ]);
  expect(found.of(9)).toBeNull();
  expect([found.total, found.saying('smoker'), found.saying('pine'), found.saying('wax')]).toEqual([
    3, 2, 1, 0,
  ]);
  expect(found.of(1)!.linkedFrom).toEqual([3]);
  expect(found.of(1)!.candidates).toMatchObject([{ fromId: 2, words: ['smoker', 'fuel'] }]);
});

test('an opening is told in a sentence, and fills in the form of a change', () => {
  expect(
    openingSentence({
      kind: 'chosen-too-little',
      figures: { appeal: 0.6, usual: 1, clicks: 60, expected: 100 },
    }),
  ).toBe(
    'Chosen 40% less often than is usual here at the same searches and positions: 60 clicks where 100 would be usual.',
  );
  const form = new URLSearchParams(
    takeOnQuery(
      {
        ...{
          kind: 'chosen-too-little',
          path: '/a/',
          query: null,
          title: 'Old',
          expected: { clicks: 14, ratio: 1.07, measure: 'appeal' },
          daysToShow: 28,
        },
        ...{ key: 'k', gain: { clicks: 50, low: 20, high: 80 } },
      },
      20_000 as never,
    ),
  );
  expect(Object.fromEntries(form)).toMatchObject({
    ...{ page: '/a/', kind: 'title-rewrite', metric: 'appeal', amount: '7', old: 'Old', planned: '1' },
    ...{ day: '2024-10-04', review: '2024-11-08' },
    opening: '{"key":"k","clicks":50,"low":20,"high":80}',
  });
});

test('what is expected is what the type of change has brought here, and no more than the estimate', () => {
  const estimate = { clicks: 1710, low: 900, high: 2500 };
  const brought = (ratio: number) => ({ net: Math.log(ratio), measure: 'appeal' as const });
  expect(expectedGain(3000, estimate, brought(1.07))).toEqual({
    ...{ clicks: expect.closeTo(210, 9), ratio: expect.closeTo(1.07, 9), measure: 'appeal' },
  });
  expect(expectedGain(3000, { ...estimate, clicks: 90 }, brought(1.07))!.clicks).toBe(90);
  expect(expectedGain(3000, estimate, brought(0.9))).toMatchObject({ clicks: 0, ratio: 1 });
  expect([expectedGain(0, estimate, brought(1.07)), expectedGain(3000, estimate, null)]).toEqual([
    null,
    null,
  ]);
  // Where nothing was read here yet, the form leaves the amount open instead of promising the ceiling.
  const form = new URLSearchParams(
    takeOnQuery(
      {
        ...{ kind: 'chosen-too-little', key: 'k', path: '/a/', query: null, title: null, daysToShow: null },
        ...{ gain: estimate, expected: null },
      },
      20_000 as never,
    ),
  );
  expect([form.get('metric'), form.get('amount')]).toEqual(['appeal', null]);
});
