import { randomLcg, randomNormal, randomPoisson } from 'd3-random';
import { asDay } from '../calendar/day';
import { History } from '../history/history';
import { ChangeIndex, type ChangedPages } from '../history/changeIndex';
import { DAY, daysOf, seriesOf, type DayOf } from '../../../tests/support/readingInput';
import {
  controlVariance,
  controlOf,
  controlWeight,
  heldAgainst,
  NO_PART,
  withoutParts,
  type Held,
} from './control';
import { earlyBoundary, FIRST_LOOK } from './earlyLooks';
import { emptyInnovations } from './forecast';
import { FittedPanel } from './fittedPanel';
import { placeboWindows } from './placeboWindows';
import type { Rows } from './rows';
import { finished } from './incrementalFit';
import { learnSwing } from './nullDistribution';

const FIRST = DAY - 420;
const LAST = DAY + 40;
const HORIZON = { days: 28, settlingDays: 3 };

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
      const impressions = randomPoisson.source(random)(40 * level * over(page, day))();
      return { clicks: randomPoisson.source(random)(impressions / 40)(), impressions, position: 5 };
    };
  });
}

function groundOf(
  pages: readonly DayOf[],
  touches: readonly ChangedPages[] = [],
  last = LAST,
  groups?: Rows['groups'],
) {
  const series = pages.map((of, i) => seriesOf(10 + i, FIRST, last, of));
  const history = new History(asDay(FIRST), last - FIRST + 1, series, daysOf(FIRST, last));
  const all = new Uint8Array(history.rows).fill(1);
  return new FittedPanel(
    {
      ...{ history, touched: new ChangeIndex(history, touches), control: all, learnedFrom: all },
      groups: groups ?? { of: new Uint8Array(history.rows), count: 1 },
    },
    asDay(last),
  );
}

describe('what is learned of a site', () => {
  test('pages that move by chance alone are known to little more than counting', () => {
    const ground = groundOf(chancePages(30, 0.11));
    const swing = finished(learnSwing(ground, HORIZON));
    const { parts, nugget, dispersion } = ground.forecaster('impressions').covariance;
    expect(parts.reduce((sum, part) => sum + part, nugget)).toBeLessThan(0.02);
    expect(dispersion).toBeGreaterThan(0.6);
    expect(dispersion).toBeLessThan(1.4);
    expect(swing.measures.clicks.criticalValue).toBeGreaterThan(1.4);
    expect(swing.measures.clicks.criticalValue).toBeLessThan(2.1);
  });

  test('counts more even than chance would have them have less noise', () => {
    const even: DayOf[] = Array.from({ length: 20 }, (_, page) => (day: number) => {
      const impressions = 60 + 5 * page + (day % 2);
      return { clicks: 6, impressions, position: 5 };
    });
    expect(groundOf(even).forecaster('impressions').covariance.dispersion).toBeLessThan(0.5);
  });

  test('a season of all pages goes into the control and not into the swing', () => {
    const season = (_page: number, day: number) => 1 + 0.6 * Math.sin(day / 40);
    const swing = finished(learnSwing(groundOf(chancePages(30, 0.13, season)), HORIZON));
    expect(swing.components.showings.tracking).toBeGreaterThan(0.7);
  });

  test('a restless page varies more than the site, a calm one no more', () => {
    const normal = randomNormal.source(randomLcg(0.4))();
    const jumps = Array.from({ length: 60 }, () => Math.exp(0.6 * normal()));
    const swing = finished(
      learnSwing(
        groundOf(
          chancePages(25, 0.14, (page, day) => (page === 0 ? jumps[Math.floor((day - FIRST) / 9)]! : 1)),
        ),
        HORIZON,
      ),
    );
    const { scale } = swing.components.impressions;
    expect(scale[0]).toBeGreaterThan(1);
    expect(Math.max(...[...scale].slice(1))).toBeLessThan(scale[0]!);
  });

  test('placebo windows begin every seventh day, and none where a page was changed', () => {
    const swing = finished(
      learnSwing(groundOf(chancePages(12, 0.16), [{ day: DAY - 100, pages: [{ id: 10 }] }]), HORIZON),
    );
    const { nets } = swing.measures.clicks;
    expect(swing.days[0]! - swing.days[1]!).toBe(7);
    expect(swing.days[0]).toBe(LAST + 1 - 28 - 3);
    const of = (row: number) => swing.days.filter((_, at) => !Number.isNaN(nets[at * swing.rows + row]!));
    expect(of(1)).toHaveLength(swing.days.length);
    for (const day of of(0)) {
      // The window and six weeks before it lie before the change or after it.
      expect(day + 3 + 28 - 1 < DAY - 100 || day - 42 > DAY - 100).toBe(true);
    }
  });

  test('a site too young to show any swing is read by what is assumed', () => {
    const swing = finished(learnSwing(groundOf(chancePages(6, 0.17), [], FIRST + 40), HORIZON));
    expect(swing.days).toEqual([]);
    expect(swing.components.appeal.tracking).toBeNull();
    expect([...swing.components.appeal.scale]).toEqual([1, 1, 1, 1, 1, 1]);
    expect(swing.measures.clicks.criticalValue).toBeCloseTo(1.645 * 1.02, 3);
  });
});

test('a window is held against a control without the page itself', () => {
  const groups = { of: [0, 0, 0, 0, 1, 1, 1, 1, 1], count: 2 };
  const ground = groundOf(chancePages(9, 0.18), [], LAST, groups);
  const day = asDay(LAST + 1 - 28 - 3 - 35);
  const windows = finished(placeboWindows(ground, 'impressions', HORIZON, [day]));
  const list = Array.from({ length: 9 }, (_, row) => row);
  const innovations = ground.innovations('impressions', day, HORIZON, list);
  const held: Held = { move: 0, variance: 0, own: 0 };
  const { groups: known } = ground.groupsAt(day);
  for (const row of list) {
    const others = Float64Array.from(list, (other) => (other === row ? 0 : 1));
    const pooled = controlOf(innovations, others, known);
    heldAgainst(pooled, known.of[row]!, windows.between, { weight: 0, move: 0 }, held);
    expect(windows.net[row]).toBeCloseTo(innovations.move[row]! - held.move, 5);
    expect(windows.variance[row]).toBeCloseTo(innovations.variance[row]! + held.variance, 5);
  }
});

describe('the control', () => {
  const of = (moves: number[], variances: number[]) => {
    const innovations = emptyInnovations(moves.length);
    innovations.move.set(moves);
    innovations.variance.set(variances);
    return innovations;
  };

  test('pools by precision, within groups and over the site', () => {
    const innovations = of([0.1, 0.3, -0.2, NaN], [0.05, 0.05, 0.1, 0.05]);
    const control = controlOf(innovations, [1, 1, 1, 1], { of: [0, 0, 1, 1], count: 2 });
    expect(control.rows).toBe(3);
    expect([...control.groupRows]).toEqual([2, 1]);
    expect(control.sum / control.weight).toBeCloseTo((20 * 0.1 + 20 * 0.3 - 10 * 0.2) / 50, 12);
    expect(controlWeight(innovations, 3)).toBe(0);
    expect(controlOf(innovations, [0, 0, 0, 0], { of: [0, 0, 1, 1], count: 2 }).rows).toBe(0);
  });

  test('leans on the group the more, the more groups differ', () => {
    const control = controlOf(of([1, 1, 0, 0], [0.01, 0.01, 0.01, 0.01]), [1, 1, 1, 1], {
      ...{ of: [0, 0, 1, 1], count: 2 },
    });
    const at = (between: number) => {
      const held: Held = { move: 0, variance: 0, own: 0 };
      return heldAgainst(control, 0, between, { weight: 0, move: 0 }, held);
    };
    expect(at(0).move).toBeCloseTo(0.5, 12);
    expect({ ...at(0.005) }).toMatchObject({ own: 0.5, move: expect.closeTo(0.75, 12) });
    expect(at(1).move).toBeGreaterThan(0.99);
  });

  test('brings into several rows what is uncertain of all, and of their groups as far as they are of one', () => {
    const control = controlOf(of([1, 1, 0, 0], [0.01, 0.01, 0.01, 0.01]), [1, 1, 1, 1], {
      ...{ of: [0, 0, 1, 1], count: 2 },
    });
    const between = 0.005;
    const held: Held = { move: 0, variance: 0, own: 0 };
    heldAgainst(control, 0, between, NO_PART, held);
    const row = (group: number) => ({ group, weight: 3 });
    expect(controlVariance(control, between, [row(0), row(0), row(0)])).toBeCloseTo(held.variance, 12);
    expect(controlVariance(control, between, [row(0), row(1)])).toBeCloseTo(
      1 / 400 + (held.variance - 1 / 400) / 2,
      12,
    );
    expect(controlVariance(control, 0, [row(0), row(1)])).toBeCloseTo(1 / 400, 12);
    const nothing = controlOf(of([], []), [], { of: [], count: 2 });
    expect(controlVariance(nothing, between, [row(0)])).toBe(0);
  });

  test('less some of its rows is the control of the others', () => {
    const innovations = of([0.1, 0.3, -0.2, 0.4], [0.05, 0.02, 0.1, 0.05]);
    const groups = { of: [0, 0, 1, 1], count: 2 };
    const parts = [1, 3].map((row) => ({
      ...{ weight: controlWeight(innovations, row), move: innovations.move[row]!, group: groups.of[row]! },
    }));
    const left = withoutParts(controlOf(innovations, [1, 1, 1, 1], groups), parts);
    const others = controlOf(innovations, [1, 0, 1, 0], groups);
    expect(left.rows).toBe(others.rows);
    expect([...left.groupRows]).toEqual([...others.groupRows]);
    expect(left.weight).toBeCloseTo(others.weight, 12);
    expect(left.sum).toBeCloseTo(others.sum, 12);
    others.groupSum.forEach((sum, group) => {
      expect(left.groupSum[group]).toBeCloseTo(sum, 12);
      expect(left.groupWeight[group]).toBeCloseTo(others.groupWeight[group]!, 12);
    });
  });
});

test('groups that no path shows are found from how pages move, and not where they do not', () => {
  const beat = (page: number, day: number) => {
    const group = page % 3;
    return Math.exp(0.35 * Math.sin(day / (9 + 7 * group) + group));
  };
  const together = groundOf(chancePages(30, 0.21, beat)).groupsAt(asDay(LAST + 1));
  expect(together.learned).toBe(true);
  const of = (page: number) => together.groups.of[page]!;
  for (let page = 3; page < 30; page++) expect(of(page)).toBe(of(page % 3));
  expect(new Set([of(0), of(1), of(2)]).size).toBe(3);
});

test('groups are learned from the weeks before a day only', () => {
  const beat = (page: number, day: number) => Math.exp(0.3 * Math.sin(day / (9 + 6 * (page % 2))));
  const [plain, moved] = [1, 1.5].map((times) =>
    groundOf(
      chancePages(20, 0.22, beat).map((of, page): DayOf => (day) => {
        const { clicks, impressions, position } = of(day);
        const factor = day > DAY - 60 && page % 3 === 0 ? times : 1;
        return { clicks, impressions: Math.round(factor * impressions), position };
      }),
    ),
  );
  const before = asDay(DAY - 90);
  expect([...(moved!.groupsAt(before).groups.of as Int32Array)]).toEqual([
    ...(plain!.groupsAt(before).groups.of as Int32Array),
  ]);
});

test('the boundary of daily looks falls toward the last day, and nothing is called before the first look', () => {
  const ground = groundOf(chancePages(25, 0.23));
  const boundary = earlyBoundary(ground, finished(learnSwing(ground, HORIZON)));
  expect(boundary).toHaveLength(29);
  expect(boundary[FIRST_LOOK - 1]).toBe(Infinity);
  expect(boundary[7]!).toBeGreaterThan(1.4 * boundary[28]!);
  expect(boundary[28]!).toBeGreaterThan(1);
  expect(boundary[28]!).toBeLessThan(2);
});
