import { asDay } from '../calendar/day';
import { DAY } from '../../../tests/support/readingInput';
import { lastReadableDay } from './readable';

const coverage = (takenOn: number) => ({ lastDay: DAY, takenOn: asDay(takenOn) });

test('of a fresh file, the newest days are provisional', () => {
  expect(lastReadableDay(coverage(DAY + 2), 3)).toBe(DAY - 3);
});

test('of a file taken long after its last day, none is', () => {
  expect(lastReadableDay(coverage(DAY + 5), 3)).toBe(DAY);
  expect(lastReadableDay(coverage(DAY + 400), 3)).toBe(DAY);
});

test('in between, those that are too young', () => {
  expect(lastReadableDay(coverage(DAY + 3), 3)).toBe(DAY - 2);
  expect(lastReadableDay(coverage(DAY + 4), 3)).toBe(DAY - 1);
});
