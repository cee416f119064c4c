import { randomLcg, randomNormal, randomPoisson } from 'd3-random';
import { asDay, type Day } from '../calendar/day';
import { History } from '../history/history';
import { ChangeIndex } from '../history/changeIndex';
import { daysOf, seriesOf } from '../../../tests/support/readingInput';
import { commonVariance } from './commonVariance';
import { EffectEngine } from './engine';
import { FittedPanel } from './fittedPanel';
import { finished } from './incrementalFit';
import { JointMoves, jointWindows } from './jointWindows';
import { movedTogether } from './pooledEffect';
import type { Rows } from './rows';
import { learnSwing } from './nullDistribution';

const [FIRST, LAST] = [20_000, 20_419];
const HORIZON = { days: 28, settlingDays: 3 };
const PAGES = 32;

/** A site on which the first eight pages share what the others do not. */
function site() {
  const random = randomLcg(0.17);
  const normal = randomNormal.source(random)();
  const shared = Array.from({ length: LAST - FIRST + 1 }, () => 0);
  for (let i = 1; i < shared.length; i++) shared[i] = 0.97 * shared[i - 1]! + 0.04 * normal();
  const series = Array.from({ length: PAGES }, (_, page) =>
    seriesOf(10 + page, FIRST, LAST, (day) => {
      const appeal = Math.exp(page < 8 ? shared[day - FIRST]! : 0);
      const impressions = 600 + 20 * page;
      return {
        clicks: randomPoisson.source(random)((impressions / 40) * appeal)(),
        impressions,
        position: 5,
      };
    }),
  );
  const history = new History(asDay(FIRST), LAST - FIRST + 1, series, daysOf(FIRST, LAST));
  const groups = { of: new Uint8Array(history.rows), count: 1 };
  const all = new Uint8Array(history.rows).fill(1);
  const rows: Rows = {
    history,
    touched: new ChangeIndex(history, []),
    groups,
    control: all,
    learnedFrom: all,
  };
  const ground = new FittedPanel(rows, asDay(LAST));
  return {
    ground,
    swing: finished(learnSwing(ground, HORIZON)),
    engine: new EffectEngine(history, groups, [], asDay(LAST)),
  };
}

describe('placebo windows of several rows at once', () => {
  const { ground, swing, engine } = site();
  const list = Array.from({ length: 8 }, (_, row) => row);
  const before = asDay(LAST - 50);
  const over = (day: Day | null) => ({ ground, swing, rows: list, before: day });

  test('are what a change of all of them would have been read as on those days', () => {
    const { windows, nets } = jointWindows(over(before), 'appeal');
    expect(windows).toBeGreaterThan(6);
    const ends = (day: number) => day + HORIZON.settlingDays + HORIZON.days;
    const days = swing.days.filter((day) => ends(day) <= before).filter((_, i) => i % 4 === 0);
    expect(days).toHaveLength(windows);
    days.forEach((day, window) => {
      const read = engine.look({ ids: list.map((row) => 10 + row), day, horizon: HORIZON }, HORIZON.days);
      read.forEach(({ effects }, at) =>
        expect(nets[window * list.length + at]).toBeCloseTo(effects.appeal!.net, 9),
      );
    });
  });

  test('show what rows have in common that stand in each other’s control', () => {
    const weights = list.map(() => 1);
    const joint = jointWindows(over(before), 'appeal');
    const single = joint.nets.slice();
    const columns = [...swing.days.keys()].filter((column) => swing.days[column]! + 31 <= before);
    columns
      .filter((_, i) => i % 4 === 0)
      .forEach((column, window) =>
        list.forEach((row, at) => {
          single[window * list.length + at] = swing.measures.appeal.nets[column * swing.rows + row]!;
        }),
      );
    const [together, apart] = [joint, { ...joint, nets: single }].map((windows) =>
      commonVariance('appeal', weights, 0, windows),
    );
    expect(together!).toBeGreaterThan(1.5 * apart!);
  });

  test('say how sure several pages are together: those that share something less than as many that share nothing', () => {
    const moves = new JointMoves(over(null));
    const { windows, apart, nets } = moves.of('appeal');
    const means = Array.from({ length: windows }, (_, window) =>
      nets.subarray(window * 8, window * 8 + 8).reduce((sum, net) => sum + net / 8, 0),
    );
    const { seen, trust } = movedTogether('appeal', list, moves);
    expect(seen).toBeCloseTo(
      means.reduce((sum, mean) => sum + mean ** 2 / windows, 0),
      12,
    );
    expect(trust).toBeCloseTo(apart / (apart + 6), 12);
    const errorOf = (first: number) => {
      const ids = list.map((row) => 10 + first + row);
      return engine.compare({ ids, day: asDay(LAST - 40), horizon: HORIZON })!.effects.appeal!.standardError;
    };
    expect(errorOf(0)).toBeGreaterThan(1.2 * errorOf(20));
  });

  test('leave out what was not over before the day, and add up where a measure is made of two', () => {
    const all = jointWindows(over(asDay(LAST + 1)), 'appeal');
    expect(all.windows).toBeGreaterThan(jointWindows(over(before), 'appeal').windows);
    expect(jointWindows(over(asDay(FIRST)), 'appeal').windows).toBe(0);
    const showings = jointWindows(over(null), 'showings');
    const clicks = new JointMoves(over(null)).of('clicks');
    expect(clicks.windows).toBe(all.windows);
    expect(clicks.nets[5]).toBeCloseTo(showings.nets[5]! + all.nets[5]!, 12);
  });
});
