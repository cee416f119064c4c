import type { Reasons } from '../reasons/reasons';
import { input } from '../../../tests/support/readingInput';
import { makeReading } from './reading';
import { reasonsClause } from './reasonsClause';

const BASE = makeReading(input());
const clause = (reasons: Partial<Reasons>, over: Partial<typeof BASE> = {}) =>
  reasonsClause({
    ...BASE,
    reasons: { total: 0, reach: 0, rank: 0, appeal: 0, unseen: 0, queries: [], ...reasons },
    ...over,
  });

test.each([
  [
    { total: 94, appeal: 94 },
    'Nearly all of the raw +94 clicks is appeal: shown as often and at much the same rank, and chosen more.',
  ],
  [{ total: -50, reach: -50 }, 'Nearly all of the raw −50 clicks is reach: shown less often.'],
  [
    { total: 40, rank: 60, reach: -20 },
    'Most of the raw +40 clicks is rank: standing higher in the results.',
  ],
])('what explains most of it is named: %#', (reasons, said) => {
  expect(clause(reasons)).toBe(said);
});

test.each([
  ['nothing moved', { total: 0 }],
  ['too few clicks to explain', { total: 3, appeal: 3 }],
  ['no reason stands out', { total: 30, reach: 10, rank: 10, appeal: 10 }],
  ['the largest reason pulls the other way', { total: 10, reach: -60, appeal: 40, rank: 30 }],
])('nothing is said where %s', (_name, reasons) => {
  expect(clause(reasons)).toBe('');
});

test('wider exposure is said instead of the main reason', () => {
  const { metrics } = BASE;
  const wide = {
    widerExposure: true,
    metrics: {
      ...metrics,
      ctr: { before: 0.031, after: 0.022, difference: -0.009, ratio: 0.71 },
      impressions: { before: 100, after: 164, difference: 64, ratio: 1.64 },
    },
  };
  expect(clause({ total: 60, reach: 60 }, wide)).toBe(
    'CTR fell from 3.10% to 2.20% because the page is shown for many more searches (impressions +64.0%), not because it is chosen less.',
  );
  expect(reasonsClause({ ...BASE, reasons: null })).toBe('');
});
