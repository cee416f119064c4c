import { randomLcg, randomNormal, randomPoisson } from 'd3-random';
import { asDay } from '../calendar/day';
import { History } from '../history/history';
import { Touched, type Touch } from '../history/touched';
import { DAY, daysOf, seriesOf, type DayOf } from '../../../tests/support/readingInput';
import { untouchedRatios, makeRoom } from './untouched';
import { eachPlaceboWindow, noiseOf, type PlaceboWindow } from './placeboWindows';
import { coupled, learnSwing, withExtra } from './swing';
import { poolMoves, rowWeight } from './yardstick';

const FIRST = DAY - 420;
const LAST = DAY + 40;

function historyOf(pages: readonly DayOf[]): History {
  const series = pages.map((of, i) => seriesOf(10 + i, FIRST, LAST, of));
  return new History(asDay(FIRST), LAST - FIRST + 1, series, daysOf(FIRST, LAST));
}

const LENGTHS = { windowDays: 28, settlingDays: 3 };
const at = (day: number) => ({ day: asDay(day), ...LENGTHS });

const oneGroup = (rows: number) => ({ of: new Uint8Array(rows), count: 1 });

/** Pages that only count by chance around a level of their own, with what `over` lays on it. */
function chancePages(
  count: number,
  seed: number,
  over: (page: number, day: number) => number = () => 1,
): DayOf[] {
  const random = randomLcg(seed);
  return Array.from({ length: count }, (_, page): DayOf => {
    const level = 4 + 8 * random();
    return (day) => {
      const clicks = randomPoisson.source(random)(level * over(page, day))();
      return { clicks, impressions: 40 * clicks + 400, position: 5 };
    };
  });
}

function learn(pages: readonly DayOf[], touches: readonly Touch[] = [], windowDays = 28) {
  const history = historyOf(pages);
  const touched = new Touched(history, touches);
  const roles = { yardstick: history.rows, firstSubject: 0 };
  const swing = learnSwing(
    { history, touched, groups: oneGroup(history.rows), roles },
    { windowDays, settlingDays: 3 },
    asDay(LAST),
  );
  return { swing, history };
}

describe('what is learned of a site', () => {
  test('pages that move by chance alone have next to no swing beyond counting', () => {
    const { swing } = learn(chancePages(30, 0.11));
    expect(swing.parts.impressions.moments.move).toBeLessThan(0.006);
    expect(swing.parts.ctr.moments.move).toBeLessThan(0.006);
    expect(swing.metrics.clicks.criticalValue).toBeGreaterThan(1.4);
    expect(swing.metrics.clicks.criticalValue).toBeLessThan(2.1);
  });

  test('pages that wander have a swing of about the size of their wandering', () => {
    const normal = randomNormal.source(randomLcg(0.37))();
    const levels = Array.from({ length: 30 }, () =>
      Array.from({ length: 40 }, () => Math.exp(0.25 * normal())),
    );
    // A new level for each page every twelve days: between two spans of four weeks much of it averages out.
    const { swing } = learn(
      chancePages(30, 0.12, (page, day) => levels[page]![Math.floor((day - FIRST) / 12)]!),
    );
    const { move } = swing.parts.impressions.moments;
    const calm = learn(chancePages(30, 0.12)).swing.parts.impressions.moments.move;
    expect(move).toBeGreaterThan(2 * calm);
    expect(move).toBeLessThan(0.25 ** 2);
  });

  test('a season of all pages goes into the yardstick and not into the swing', () => {
    const season = (_page: number, day: number) => 1 + 0.6 * Math.sin(day / 40);
    const { swing } = learn(chancePages(30, 0.13, season));
    expect(swing.parts.impressions.tracking).toBeGreaterThan(0.7);
    expect(swing.parts.impressions.moments.move).toBeLessThan(0.006);
  });

  test('a restless page has more of its own, a calm one no more than the site', () => {
    const normal = randomNormal.source(randomLcg(0.4))();
    const jumps = Array.from({ length: 60 }, () => Math.exp(0.6 * normal()));
    const { swing } = learn(
      chancePages(25, 0.14, (page, day) => (page === 0 ? jumps[Math.floor((day - FIRST) / 9)]! : 1)),
    );
    const { extra } = swing.metrics.impressions;
    expect(extra[0]).toBeGreaterThan(0.005);
    expect(Math.max(...[...extra].slice(1))).toBeLessThan(extra[0]!);
  });

  test('where dips come back, a share of a dip is expected to', () => {
    // Four weeks down, four weeks up, each page in its own time.
    const { swing } = learn(
      chancePages(30, 0.15, (page, day) => (Math.floor((day + 3 * page) / 28) % 2 === 0 ? 0.7 : 1.3)),
    );
    expect(swing.parts.impressions.moments.moveWithDip).toBeLessThan(0);
  });

  test('placebo windows begin every seventh day, and none where a page was changed', () => {
    const { swing, history } = learn(chancePages(12, 0.16), [{ day: DAY - 100, pages: [{ id: 10 }] }]);
    const { residuals } = swing.metrics.clicks;
    expect(swing.days[0]! - swing.days[1]!).toBe(7);
    expect(swing.days[0]).toBe(LAST + 1 - 28 - 3);
    const of = (row: number) =>
      swing.days.filter((_, at) => !Number.isNaN(residuals[at * history.rows + row]!));
    expect(of(1)).toHaveLength(swing.days.length);
    for (const day of of(0)) {
      // The whole window, with its long level, lies before the change or after it.
      const before = day + 3 + 28 - 1 < DAY - 100;
      expect(before || day - 28 - 112 > DAY - 100).toBe(true);
    }
  });

  test('a site too young to show any swing is read by what is assumed', () => {
    const history = historyOf(chancePages(6, 0.17));
    const roles = { yardstick: 6, firstSubject: 0 };
    const touched = new Touched(history, []);
    const swing = learnSwing({ history, touched, groups: oneGroup(6), roles }, LENGTHS, asDay(FIRST + 40));
    expect(swing.days).toEqual([]);
    expect(swing.parts.impressions.moments.move).toBeCloseTo(0.04, 12);
    expect(swing.parts.ctr.moments.move).toBeCloseTo(0.015, 12);
    expect(swing.parts.ctr.tracking).toBeNull();
    expect([...swing.metrics.clicks.extra]).toEqual([0, 0, 0, 0, 0, 0]);
  });
});

test('a window is measured against a yardstick without the page itself', () => {
  const history = historyOf(chancePages(9, 0.18));
  const touched = new Touched(history, [{ day: DAY, pages: [{ id: 12 }] }]);
  const column = untouchedRatios({ history, touched }, at(DAY - 60), 9, makeRoom(9), true);
  const groups = { of: [0, 0, 0, 0, 1, 1, 1, 1, 1], count: 2 };
  const roles = { yardstick: 9, firstSubject: 0 };
  const [spread, between] = [0.03, 0.01];
  const spells: PlaceboWindow[] = [];
  const ground = { columns: [column], groups, roles };
  eachPlaceboWindow('impressions', ground, { spread, between }, { from: 0, to: 9 }, (window) =>
    spells.push({ ...window }),
  );
  expect(spells.length).toBeGreaterThan(6);
  const moves = column.moves.impressions;
  for (const window of spells) {
    const others = column.fit.map((value, row) => (row === window.row ? 0 : value));
    const pools = poolMoves(moves, others, groups.of, 2, spread);
    const group = pools.groups[groups.of[window.row]!]!;
    const own = (between * group.weight) / (between * group.weight + 1);
    const yardstick = own * group.move + (1 - own) * pools.site.move;
    expect(window.move).toBeCloseTo(moves.move[window.row]! - yardstick, 10);
    expect(window.weight).toBeCloseTo(rowWeight(moves, window.row, spread), 12);
  }
});

test('noise leaves out what is not known', () => {
  const history = historyOf(chancePages(2, 0.19));
  const touched = new Touched(history, []);
  const early = untouchedRatios({ history, touched }, at(FIRST + 30), 2, makeRoom(2), true);
  expect(noiseOf(early.moves.clicks, 0)).toMatchObject({ long: null, preTrend: null });
  const late = untouchedRatios({ history, touched }, at(DAY), 2, makeRoom(2), true);
  expect(noiseOf(late.moves.clicks, 0).long).toBeGreaterThan(0);
});

test('variances never shrink to nothing', () => {
  expect(withExtra(0.09, -1)).toBeCloseTo(0.03, 12);
  expect(withExtra(0.09, 0.01)).toBeCloseTo(0.1, 12);
  expect(coupled(0.1, -1)).toBeCloseTo(0.05, 12);
  expect(coupled(0.1, 0.02)).toBeCloseTo(0.12, 12);
});
