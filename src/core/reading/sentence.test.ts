import { asDay } from '../calendar/day';
import { change, DAY, daysOf, figures, input } from '../../../tests/support/readingInput';
import { makeReading } from './reading';
import { readingSentence } from './sentence';

const expecting = (metric: 'ctr' | 'position') =>
  change({ expectation: { metric, direction: 'up', amount: null, reviewDay: null } });
const moving = [...daysOf(DAY - 60, DAY + 60)].map((day) =>
  figures(day, day < DAY ? 10 : 15, 200, day < DAY ? 8 : 7.5),
);

test('without an expectation, the clicks with their difference', () => {
  const { seen } = readingSentence(makeReading(input({ pageDays: moving })));
  expect(seen).toBe('Clicks rose from 280 to 420 (+140, +50.0%).');
});

test('the metric on which the effect was expected comes first', () => {
  const ctr = readingSentence(makeReading(input({ pageDays: moving, change: expecting('ctr') })));
  expect(ctr.seen).toBe(
    'CTR, where the effect was expected, rose from 5.00% to 7.50% (+2.50 points, +50.0%). Clicks rose from 280 to 420 (+140, +50.0%).',
  );
  const position = readingSentence(makeReading(input({ pageDays: moving, change: expecting('position') })));
  expect(position.seen).toMatch(
    /^Position, where the effect was expected, improved from 8.0 to 7.5 \(0.5 places up\)/,
  );
});

test('what rounds to the same value stayed, and did not move', () => {
  const rows = moving.map((row) => ({
    ...row,
    clicks: 10,
    positionSum: row.day < DAY ? 4.2 * 200 : 840.0001,
  }));
  const position = readingSentence(makeReading(input({ pageDays: rows, change: expecting('position') })));
  expect(position.seen).toBe('Position, where the effect was expected, stayed at 4.2. Clicks stayed at 280.');
});

test('an interim figure is no new sentence', () => {
  const waiting = { pageDays: moving, lastReadable: asDay(DAY + 20), today: asDay(DAY + 25) };
  expect(readingSentence(makeReading(input(waiting))).seen).toMatch(/^So far, clicks rose from 140 to 210/);
  expect(readingSentence(makeReading(input({ ...waiting, change: expecting('ctr') }))).seen).toMatch(
    /^So far, CTR, where the effect/,
  );
});

test('an absent metric is called absent', () => {
  const pageDays = moving.map((row) => ({ ...row, positionSum: null }));
  const { seen } = readingSentence(makeReading(input({ pageDays, change: expecting('position') })));
  expect(seen).toMatch(/cannot be compared, being absent/);
});
