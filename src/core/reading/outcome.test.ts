import type { Expectation } from '../model/change';
import { change } from '../../../tests/support/readingInput';
import type { Reading } from './readingModel';
import { outcomeOf } from './outcome';

const read = (expectation: Partial<Expectation> | null, low: number, high: number, complete = true) => {
  const full = expectation && {
    metric: 'ctr',
    direction: 'up',
    amount: 0.2,
    reviewDay: null,
    ...expectation,
  };
  const judged = full?.metric ?? 'clicks';
  const effect = judged === 'position' ? { placesGained: 0, low, high } : { ratio: 1, low, high };
  return outcomeOf({
    change: change({ expectation: full as Expectation | null }),
    spans: { complete },
    net: { [judged]: effect },
    judged,
  } as unknown as Reading);
};

test.each([
  [{}, 1.21, 1.5, 'met'],
  [{}, 1.05, 1.5, 'cannot-be-told'],
  [{}, 0.9, 1.19, 'not-met'],
  // A direction alone is met by any lift that is shown.
  [{ amount: null }, 1.01, 1.5, 'met'],
  [{ amount: null }, 0.99, 1.5, 'cannot-be-told'],
  // A page may be meant to sink.
  [{ direction: 'down' }, 0.5, 0.79, 'met'],
  [{ direction: 'down' }, 0.85, 1.2, 'not-met'],
  [{ direction: 'down' }, 0.7, 0.9, 'cannot-be-told'],
  // Places, of which a gain is positive.
  [{ metric: 'position', amount: 2 }, 2.1, 4, 'met'],
  [{ metric: 'position', amount: 2 }, 0.5, 1.9, 'not-met'],
  [{ metric: 'position', amount: 2, direction: 'down' }, -4, -2.5, 'met'],
] as const)('%p with a range from %p to %p is %s', (expectation, low, high, wanted) => {
  expect(read(expectation, low, high)).toBe(wanted);
});

test('without an expectation, or too soon, there is nothing to say', () => {
  expect(read(null, 1.2, 1.4)).toBeNull();
  expect(read({}, 1.2, 1.4, false)).toBeNull();
});
