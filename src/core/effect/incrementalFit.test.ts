import { asDay } from '../calendar/day';
import { History } from '../history/history';
import { DAY, daysOf, seriesOf } from '../../../tests/support/readingInput';
import { EffectEngine } from './engine';
import { finished, NotFittedError, type FitMode } from './incrementalFit';

const [FIRST, LAST] = [DAY - 200, DAY + 40];
const HORIZON = { days: 28, settlingDays: 3 };

function engineWith(pace?: FitMode) {
  const series = Array.from({ length: 8 }, (_, page) =>
    seriesOf(10 + page, FIRST, LAST, (day) => {
      const impressions = 300 + ((day * (page + 3)) % 97);
      return { clicks: Math.round(impressions / (9 + (day % 5))), impressions, position: 5 };
    }),
  );
  const history = new History(asDay(FIRST), LAST - FIRST + 1, series, daysOf(FIRST, LAST));
  const groups = { of: new Uint8Array(history.rows), count: 1 };
  return new EffectEngine(history, groups, [], asDay(LAST), {}, pace);
}

function unlearnedOf(engine: EffectEngine): NotFittedError {
  try {
    engine.swing(HORIZON);
  } catch (error) {
    if (error instanceof NotFittedError) return error;
    throw error;
  }
  throw new Error('It was learned.');
}

test('what is learned step by step is what is learned at once', () => {
  const engine = engineWith({ inSteps: true });
  const { steps } = unlearnedOf(engine);
  let count = 0;
  for (const it = steps(); !it.next().done;) count += 1;
  expect(count).toBeGreaterThan(20);
  expect(engine.swing(HORIZON)).toEqual(engineWith().swing(HORIZON));
});

test('two who learn the same share the steps, and either may come to the end', () => {
  const engine = engineWith({ inSteps: true });
  const [first, second] = [unlearnedOf(engine).steps(), unlearnedOf(engine).steps()];
  first.next();
  second.next();
  finished(second);
  expect(first.next().done).toBe(true);
  expect(engine.swing(HORIZON).days.length).toBeGreaterThan(3);
});

test('whoever changes the pace learns at once', () => {
  const pace = { inSteps: true };
  const engine = engineWith(pace);
  unlearnedOf(engine);
  pace.inSteps = false;
  expect(engine.swing(HORIZON).days.length).toBeGreaterThan(3);
});
