import { asDay, type Day } from '../calendar/day';
import type { Totals } from '../measures/totals';
import { positionCurve } from '../appeal/positionCurve';
import { change, DAY, siteInput, type DayOf } from '../../../tests/support/readingInput';
import { makeReading } from './reading';
import { plainSentence, readingSentence } from './readingSentence';
import type { ReadingInput } from './input';

/** A page that wanders a little by a rhythm of its own, and from the change on does as told. */
const page =
  (
    salt: number,
    from: (day: number) => { clicks?: number; impressions?: number; position?: number } = () => ({}),
  ): DayOf =>
  (day) => {
    const wander = 1 + 0.05 * Math.sin(day / (9 + salt)) + 0.02 * Math.cos(day * salt);
    const { clicks = 1, impressions = 1, position = 1 } = day >= DAY ? from(day) : {};
    return {
      clicks: Math.round(60 * wander * clicks),
      impressions: Math.round(1500 * wander * impressions),
      position: 8 * (1 + 0.02 * Math.sin(day / (7 + salt))) * position,
    };
  };
const OTHERS = Array.from({ length: 12 }, (_, i) => page(i + 2));
const sentence = (own: DayOf, over: Partial<ReadingInput> = {}) =>
  plainSentence(readingSentence(makeReading(siteInput([own, ...OTHERS], over))));
const other = change({ kind: 'body-copy' });
const expecting = (metric: 'ctr' | 'position', amount: number | null = null) =>
  change({ expectation: { metric, direction: 'up', amount, reviewDay: null } });

test('a lift says how far above the untouched pages, with its range', () => {
  expect(
    sentence(
      page(1, () => ({ impressions: 1.6, clicks: 1.6 })),
      { change: other },
    ),
  ).toMatch(
    /^What was shown, and where, was worth \d+% more clicks than the untouched pages suggest, likely between \d+% and \d+%\. Clicks came out \d+% above, likely between/,
  );
});

test('a title that is chosen more often says so, at the same searches and positions', () => {
  expect(sentence(page(1, () => ({ clicks: 1.6 })))).toMatch(
    /^It was chosen \d+% more often at the same searches and positions, likely between \d+% and \d+%\. Clicks came out \d+% above/,
  );
});

test('what pulls against each other is said', () => {
  expect(sentence(page(1, () => ({ clicks: 1.05, impressions: 0.6 })))).toMatch(
    /Two things pull against each other: it is chosen \d+% more often, and what is shown is worth \d+% fewer clicks\./,
  );
});

test('what plainly dropped comes first whatever was expected, then the clicks', () => {
  const text = sentence(
    page(1, () => ({ clicks: 0.6 })),
    { change: expecting('ctr') },
  );
  expect(text).toMatch(/^It was chosen \d+% less often at the same searches and positions, likely between/);
  expect(text).toMatch(/Clicks came out \d+% below, likely between \d+% and \d+%\./);
});

test('places are better or worse, whatever the sign of the number', () => {
  expect(
    sentence(
      page(1, () => ({ position: 0.6 })),
      { change: expecting('position') },
    ),
  ).toMatch(
    /^It stood \d\.\d places better search by search than the untouched pages suggest, likely between \d\.\d places? up and \d\.\d places? up\. Clicks did not follow, so the change as a whole could be either\./,
  );
});

test('what has hardly moved held level, or could be either', () => {
  expect(sentence(page(1))).toMatch(
    /^(How often it is chosen .* held level: |It was chosen .* could be either: anything between)/,
  );
  expect(sentence(page(1), { change: other })).toMatch(
    /^Clicks (held level: |came out .* could be either: anything between)/,
  );
});

test('an interim figure comes with when it will be complete', () => {
  const text = sentence(
    page(1, () => ({ clicks: 1.6 })),
    {
      lastReadable: asDay(DAY + 20),
      today: asDay(DAY + 25),
    },
  );
  expect(text).toMatch(
    /^Already plain since \d+ September 2026: lifted, chosen more often\. So far: It was chosen .* Interim, over 2 whole weeks on both sides\. The reading will be/,
  );
});

test('a planned change says what the page could show, and whether what is expected would show', () => {
  const planned = (amount: number | null) =>
    sentence(page(1), {
      change: expecting('ctr', amount),
      today: asDay(DAY - 3),
      lastReadable: asDay(DAY - 8),
      detail: { queriesIn: () => null, curve: positionCurve([]) },
    });
  expect(planned(null)).toMatch(
    /^Still to be made\. In 28 days this page could show a change in ctr of \d+% or more\.$/i,
  );
  expect(planned(3)).toMatch(/What is expected would show in 7 days\.$/);
  expect(planned(0.001)).toMatch(/it will not be told apart from chance\.$/);
});

const totals = (clicks: number, impressions: number, position: number): Totals => ({
  ...{ days: 28, clicks, impressions },
  ...{ positionSum: position * impressions, positionWeight: impressions },
});

test('a CTR that fell because the page is shown for many more searches says so', () => {
  const wider = page(1, () => ({ clicks: 1.05, impressions: 2 }));
  const text = sentence(wider, {
    detail: {
      queriesIn: () => [
        { query: 'bee smoker', before: totals(1500, 38_000, 7), after: totals(1510, 38_200, 7) },
        { query: 'garden bonfire', before: null, after: totals(60, 40_000, 30) },
      ],
      curve: positionCurve([]),
    },
  });
  expect(text).toMatch(
    /CTR fell from \d\.\d\d% to \d\.\d\d% because the page is shown for many more searches \(impressions \+\d+\.\d%\), not because it is chosen less\.$/,
  );
});

test('and so it does without rows by query, where clicks did not fall with it', () => {
  const none = { daysWithQueries: new Set<Day>() };
  expect(
    sentence(
      page(1, () => ({ clicks: 1.05, impressions: 2 })),
      none,
    ),
  ).toMatch(/shown for many more searches/);
  expect(
    sentence(
      page(1, () => ({ clicks: 0.5 })),
      none,
    ),
  ).not.toMatch(/more searches/);
});
