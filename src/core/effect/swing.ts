/* Ordinary swing: variance components and covariances of log ratios, estimated by moments from placebo windows. */

import { asDay, type Day } from '../calendar/day';
import type { Metric } from '../model/change';
import { byMetric } from './effect';
import { byComponent, COMPONENTS_OF, type Component } from './components';
import {
  regressionToMean,
  strain,
  strained,
  type Moments,
  type MeanRegression,
  type Noise,
} from './regressionToMean';
import { criticalValueOf } from './criticalValue';
import { eachPlaceboWindow, noiseOf, type PlaceboGround } from './placeboWindows';
import type { Rows, SpanLengths } from './rows';
import { untouchedRatios, makeRoom } from './untouched';

/** What is learned of one part from the site's untouched pages at all past days. */
export type Learned = {
  readonly moments: Moments;
  /** Variance of a group's move about the site's. */
  readonly between: number;
  /**
   * By how much of itself the variance of a move grows with the strain of the dip before it: pages far from their usual
   * level are the restless ones, and less is known about what follows.
   */
  readonly perStrain: number;
  /** Share of the variance of pages' moves that the yardstick takes away; below 0 it adds to it. Null without windows. */
  readonly tracking: number | null;
};

/** How far one metric wanders, from the net moves of placebo windows. */
export type MetricSwing = {
  /** Half-width of the 90% interval in standard errors, as large as it has to be to hold 90% of the placebo windows. */
  readonly criticalValue: number;
  /** What the parts of the metric have in common beyond what each has by itself, as a variance. */
  readonly coupling: number;
  /** What each row's variance has more or less than the site's, pulled toward zero the fewer windows it has. */
  readonly extra: Float64Array;
  /** Net moves of placebo windows, entry `column * rows + row`; NaN where the page was touched or is absent. */
  readonly residuals: Float32Array;
};

/** The ordinary swing of a site for spans of one length. */
export type Swing = {
  readonly windowDays: number;
  readonly settlingDays: number;
  /** The days at which the computation was run: every seventh, from the newest on back. */
  readonly days: readonly Day[];
  /** Spells a week apart overlap; so many of them tell as much as one that stands alone. */
  readonly overlapping: number;
  readonly parts: Readonly<Record<Component, Learned>>;
  readonly metrics: Readonly<Record<Metric, MetricSwing>>;
};

/** Days between the starts of two placebo windows. */
const STEP_DAYS = 7;

/**
 * Assumed where a site is too young to show its own swing, as variances: standard deviations of about 20% for
 * impressions, 12% for CTR and position. They weigh as much as PRIOR_WINDOWS windows apart from each other.
 */
const ASSUMED: Record<Component, number> = { impressions: 0.04, ctr: 0.015, position: 0.015 };
const PRIOR_WINDOWS = 12;
/** What the variance of a move grows by for each unit of strain, where little is known, and at most. */
const ASSUMED_PER_STRAIN = 0.05;
const MOST_PER_STRAIN = 0.25;
/** Independent windows that a page needs for its own swing to count as much as the site's. */
const SHRINKAGE_WINDOWS = 14;

/**
 * Runs the computation of a reading on all untouched pages at all past days (every seventh), and learns from it how
 * far pages wander, how much of a dip goes by itself, and how much the groups of pages differ.
 */
export function learnSwing(rows: Rows, { windowDays, settlingDays }: SpanLengths, lastReadable: Day): Swing {
  const { history, groups, roles } = rows;
  const days: Day[] = [];
  const first = history.firstDay + windowDays;
  const last = Math.min(lastReadable, history.lastDay) + 1 - windowDays - settlingDays;
  for (let day = last; day >= first; day -= STEP_DAYS) days.push(asDay(day));
  const room = makeRoom(history.rows);
  const columns = days.map((day) =>
    untouchedRatios(rows, { day, windowDays, settlingDays }, history.rows, room, true),
  );
  const overlapping = Math.max(1, (2 * windowDays + settlingDays) / STEP_DAYS);
  const ground: Ground = { columns, groups, roles, rows: history.rows, overlapping };
  const spells = byComponent((part) => learnComponent(part, ground));
  return {
    ...{ windowDays, settlingDays, days, overlapping },
    parts: byComponent((part) => spells[part].learned),
    metrics: byMetric((metric) =>
      judge(
        COMPONENTS_OF[metric].map((part) => spells[part]),
        ground,
      ),
    ),
  };
}

/** What all parts are learned from. */
type Ground = PlaceboGround & { readonly rows: number; readonly overlapping: number };

/** A weighted mean that grows, and can be pulled toward what was assumed while it rests on little. */
class Mean {
  private weight = 0;
  private total = 0;
  private count = 0;

  add(weight: number, value: number): void {
    this.weight += weight;
    this.total += weight * value;
    this.count += 1;
  }

  get value(): number {
    return this.weight > 0 ? this.total / this.weight : 0;
  }

  pulled(overlapping: number, assumed: number): number {
    const apart = this.count / overlapping;
    const own = apart / (apart + PRIOR_WINDOWS);
    return own * this.value + (1 - own) * assumed;
  }
}

/** What is learned of a part, and the net move of every placebo window with the variance to be expected of it. */
type ComponentWindows = {
  readonly learned: Learned;
  readonly residuals: Float32Array;
  /** NaN for rows that say too little to be judged by. */
  readonly variances: Float32Array;
};

function learnComponent(part: Component, ground: Ground): ComponentWindows {
  const assumed = ASSUMED[part];
  let moments: Moments = {
    move: assumed,
    dip: assumed,
    preTrend: assumed / 4,
    moveWithDip: -assumed / 4,
    moveWithPreTrend: assumed / 8,
    dipWithPreTrend: 0,
  };
  let between = assumed / 10;
  // A first look at a part of the days sets the weights of the second.
  const glance = { ...ground, columns: ground.columns.filter((_, i) => i % 4 === 0) };
  for (const looked of [glance, ground])
    ({ moments, between } = learnMoments(part, looked, moments, between));
  return componentWindows(part, ground, moments, between);
}

/** Variances and covariances beyond counting, and that between groups, with weights from an earlier estimate. */
function learnMoments(part: Component, ground: Ground, earlier: Moments, earlierBetween: number) {
  const { columns, roles, rows, overlapping } = ground;
  const assumed = ASSUMED[part];
  const [move, dip, preTrend, moveWithDip, moveWithPreTrend, dipWithPreTrend, group] = Array.from(
    { length: 7 },
    () => new Mean(),
  ) as [Mean, Mean, Mean, Mean, Mean, Mean, Mean];
  eachPlaceboWindow(
    part,
    ground,
    { spread: earlier.move, between: earlierBetween },
    // Of a site's pages those of the yardstick are enough to learn from; single queries only have themselves.
    { from: roles.firstSubject, to: roles.firstSubject === 0 ? roles.yardstick : rows },
    (window) => {
      if (window.weight === 0) return;
      const moves = columns[window.column]!.moves[part];
      const before = moves.noiseBefore[window.row]!;
      const w = window.weight * window.weight;
      move.add(w, window.move * window.move - before - moves.noiseAfter[window.row]!);
      const [hasDip, hasPreTrend] = [window.dip === window.dip, window.preTrend === window.preTrend];
      if (hasDip) {
        dip.add(w, window.dip * window.dip - before - moves.noiseLong[window.row]!);
        moveWithDip.add(w, window.move * window.dip + before);
      }
      if (hasPreTrend) {
        preTrend.add(w, window.preTrend * window.preTrend - moves.noisePreTrend[window.row]!);
        moveWithPreTrend.add(w, window.move * window.preTrend);
      }
      if (hasDip && hasPreTrend) dipWithPreTrend.add(w, window.dip * window.preTrend);
    },
    (deviation, variance) => group.add(1 / variance, deviation * deviation - variance),
  );
  const atLeast = (least: number, value: number) => Math.max(least, value);
  const moments: Moments = {
    move: atLeast(assumed / 100, move.pulled(overlapping, assumed)),
    dip: atLeast(assumed / 100, dip.pulled(overlapping, assumed)),
    preTrend: atLeast(assumed / 400, preTrend.pulled(overlapping, assumed / 4)),
    moveWithDip: moveWithDip.pulled(overlapping, -assumed / 4),
    moveWithPreTrend: moveWithPreTrend.pulled(overlapping, assumed / 8),
    dipWithPreTrend: dipWithPreTrend.pulled(overlapping, 0),
  };
  // A group was compared with the rest of the site, so its deviation holds the variance of two.
  return { moments, between: atLeast(0, group.value / 2) };
}

/** The net moves of all placebo windows of a part, with the variance to be expected of each. */
function componentWindows(
  part: Component,
  ground: Ground,
  moments: Moments,
  between: number,
): ComponentWindows {
  const { columns, roles, rows, overlapping } = ground;
  const residuals = new Float32Array(rows * columns.length).fill(NaN);
  const variances = new Float32Array(rows * columns.length).fill(NaN);
  const strains = new Float32Array(rows * columns.length);
  const [plain, against, slope] = [new Mean(), new Mean(), new Mean()];
  eachPlaceboWindow(
    part,
    ground,
    { spread: moments.move, between },
    { from: roles.firstSubject, to: rows },
    (window) => {
      const moves = columns[window.column]!.moves[part];
      const noise = noiseOf(moves, window.row);
      const expected = regressionToMean(moments, noise);
      const at = window.column * rows + window.row;
      const net = window.move - expectedReturn(expected, noise, window);
      residuals[at] = net;
      if (window.weight > 0) {
        variances[at] = expected.variance;
        strains[at] = strain(moments, noise, window.dip);
        slope.add(
          strains[at]! ** 2,
          strains[at] === 0 ? 0 : ((net * net) / expected.variance - 1) / strains[at]!,
        );
      }
      plain.add(window.weight, moves.move[window.row]! ** 2);
      against.add(window.weight, window.move ** 2);
    },
  );
  const tracking = plain.value > 0 ? 1 - against.value / plain.value : null;
  const perStrain = Math.min(MOST_PER_STRAIN, Math.max(0, slope.pulled(overlapping, ASSUMED_PER_STRAIN)));
  for (let at = 0; at < variances.length; at++)
    variances[at] = strained(variances[at]!, strains[at]!, perStrain);
  return { learned: { moments, between, perStrain, tracking }, residuals, variances };
}

/** How far a metric made of these parts wanders: what each row has of its own, and the reach of an interval. */
function judge(parts: readonly ComponentWindows[], { rows, columns, overlapping }: Ground): MetricSwing {
  const [first, second] = parts as [ComponentWindows, ComponentWindows?];
  const residuals = second ? added(first.residuals, second.residuals) : first.residuals;
  const apart = second ? added(first.variances, second.variances) : first.variances;
  const common = new Mean();
  for (let at = 0; second && at < residuals.length; at++) {
    const variance = apart[at]!;
    if (variance > 0 && residuals[at] === residuals[at])
      common.add(1 / (variance * variance), residuals[at]! ** 2 - variance);
  }
  const coupling = second ? common.pulled(overlapping, 0) : 0;

  // The older and the newer half of the days are kept apart.
  const excess = [new Float64Array(rows), new Float64Array(rows)] as const;
  const spells = [new Float64Array(rows), new Float64Array(rows)] as const;
  const halfOf = (column: number) => (column < columns.length / 2 ? 0 : 1);
  const eachJudged = (visit: (column: number, row: number, net: number, variance: number) => void) => {
    for (let column = 0, at = 0; column < columns.length; column++) {
      for (let row = 0; row < rows; row++, at++) {
        const variance = coupled(apart[at]!, coupling);
        if (variance > 0 && residuals[at] === residuals[at]) visit(column, row, residuals[at]!, variance);
      }
    }
  };
  eachJudged((column, row, net, variance) => {
    excess[halfOf(column)][row]! += net * net - variance;
    spells[halfOf(column)][row]! += 1;
  });
  const pull = (sum: number, count: number) => {
    const alone = count / overlapping;
    return count > 0 ? (alone / (alone + SHRINKAGE_WINDOWS)) * (sum / count) : 0;
  };
  // A page's own part of its variance must not be judged by the windows it was made from: those of one half of the
  // days are held against the part learned from the other.
  const sizes: number[] = [];
  eachJudged((column, row, net, variance) => {
    const other = halfOf(column) === 0 ? 1 : 0;
    const own = pull(excess[other][row]!, spells[other][row]!);
    sizes.push(Math.abs(net) / Math.sqrt(withExtra(variance, own)));
  });
  return {
    residuals,
    coupling,
    extra: Float64Array.from({ length: rows }, (_, row) =>
      pull(excess[0][row]! + excess[1][row]!, spells[0][row]! + spells[1][row]!),
    ),
    criticalValue: criticalValueOf(sizes, overlapping),
  };
}

function added(a: Float32Array, b: Float32Array): Float32Array {
  return a.map((value, i) => value + b[i]!);
}

/**
 * The variance of two components together, which can never be less than half of what they have apart.
 * @example coupled(0.04, -0.03) // 0.02
 */
export function coupled(apart: number, coupling: number): number {
  return Math.max(apart / 2, apart + coupling);
}

/**
 * A row's variance with its own share, never less than a third of what the site as a whole would say.
 * @example withExtra(0.03, 0.01) // 0.04
 */
export function withExtra(variance: number, extra: number): number {
  return Math.max(variance / 3, variance + extra);
}

/** The part of a row's move that regression to the mean explains, from its dip and pre-trend as far as they are known. */
export function expectedReturn(
  { dipShare, preTrendShare }: MeanRegression,
  noise: Noise,
  { dip, preTrend }: { readonly dip: number; readonly preTrend: number },
): number {
  return (
    (noise.long === null ? 0 : dipShare * dip) + (noise.preTrend === null ? 0 : preTrendShare * preTrend)
  );
}
