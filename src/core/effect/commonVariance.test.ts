import { randomLcg, randomNormal } from 'd3-random';
import { DAY, readerOf, type DayOf } from '../../../tests/support/readingInput';
import { commonVariance } from './commonVariance';
import type { JointWindows } from './jointWindows';

const ROWS = 20;

/** Windows that stand apart, with these net moves. */
function windowsOf(windows: number, netOf: (window: number, row: number) => number): JointWindows {
  const nets = Float64Array.from({ length: ROWS * windows }, (_, at) =>
    netOf(Math.floor(at / ROWS), at % ROWS),
  );
  return { windows, apart: windows, nets };
}
const WEIGHTS = Array.from({ length: ROWS }, (_, row) => (row < 10 ? 2 : 1));
/** What the control itself is known to. */
const OWN = 0.0002;

describe('what a control misses of rows all at once', () => {
  test('is what their moves have in common, whatever each does by itself', () => {
    const normal = randomNormal.source(randomLcg(0.21))();
    const missed = Array.from({ length: 400 }, () => 0.08 * normal());
    const windows = windowsOf(400, (window) => missed[window]! + 0.2 * normal());
    expect(Math.sqrt(commonVariance('appeal', WEIGHTS, OWN, windows))).toBeCloseTo(0.08, 2);
    // The same told by windows of which eight tell as much as one.
    const overlapping = commonVariance('appeal', WEIGHTS, OWN, { ...windows, apart: 50 });
    expect(overlapping).toBeLessThan(commonVariance('appeal', WEIGHTS, OWN, windows));
    expect(Math.abs(Math.sqrt(overlapping) - 0.08)).toBeLessThan(0.01);
  });

  test('is no less than what the control itself is known to, and what is assumed where nothing was seen', () => {
    // Moves that cancel each other have less than nothing in common.
    const even = WEIGHTS.map(() => 1);
    const against = windowsOf(400, (_window, row) => (row % 2 === 0 ? 0.2 : -0.2));
    expect(commonVariance('appeal', even, OWN, against)).toBeCloseTo(0.0002, 12);
    const none = windowsOf(0, () => 0);
    expect(commonVariance('appeal', WEIGHTS, OWN, none)).toBeCloseTo(0.0007, 9);
  });

  test('asks neither rows that are not known nor windows in which only one is', () => {
    const wild = windowsOf(400, (_window, row) => (row === 3 ? 5 : 0.1));
    const unknown = WEIGHTS.map((weight, row) => (row === 3 ? 0 : weight));
    expect(commonVariance('appeal', unknown, OWN, wild)).toBeCloseTo(0.01, 3);
    const alone = windowsOf(400, (_window, row) => (row === 3 ? 0.5 : NaN));
    expect(commonVariance('appeal', WEIGHTS, OWN, alone)).toBeCloseTo(0.0007, 9);
  });
});

describe('of an engine', () => {
  const page =
    (salt: number): DayOf =>
    (day) => {
      const at = 1 + 0.06 * Math.sin(day / (8 + salt) + salt);
      return { clicks: Math.round(40 * at), impressions: Math.round(1200 * at), position: 6 };
    };
  const pages = (count: number) => Array.from({ length: count }, (_, i) => page(i + 1));
  const of = (count: number, ids: readonly number[]) => {
    const engine = readerOf(pages(count), [{ day: DAY, pages: [{ id: 10 }] }]);
    const asked = { ids, day: DAY, horizon: { days: 28, settlingDays: 3 } };
    return engine.commonVariances(asked, engine.look(asked, 28), ['appeal']).appeal;
  };

  test('rows are held against a yardstick of five rows at least, besides each other', () => {
    expect(of(12, [10, 11, 12, 13])!).toBeGreaterThan(0);
    expect(of(8, [10, 11, 12, 13])).toBeNull();
  });
});
