import { asDay, type Day } from '../calendar/day';
import type { History } from '../history/history';
import type { Touched } from '../history/touched';
import { METRICS, type Metric } from '../model/change';
import { Z90 } from '../statistics/normal';
import type { MetricMoves } from './moves';
import { recovery, type Moments, type Noise, type Recovery } from './recovery';
import { compareRows, FIT, type Column } from './untouched';
import { blend, poolMoves, rowWeight, without } from './yardstick';

/** What is learned of one metric from the site's untouched pages at all past days. */
export type MetricSwing = {
  readonly moments: Moments;
  /** Variance of a group's move about the site's. */
  readonly between: number;
  /** Half-width of the 90% interval in standard errors, as large as it has to be to hold 90% of the ordinary spells. */
  readonly reach: number;
  /** What each row's variance has more or less than the site's, pulled toward nought the fewer spells it has. */
  readonly extra: Float64Array;
  /** Net moves of ordinary spells, entry `column * rows + row`; NaN where the page was touched or says too little. */
  readonly residuals: Float32Array;
};

/** The ordinary swing of a site for spans of one length. */
export type Swing = {
  readonly windowDays: number;
  readonly settlingDays: number;
  /** The days at which the computation was run: every seventh, from the newest on back. */
  readonly days: readonly Day[];
  readonly metrics: Readonly<Record<Metric, MetricSwing>>;
};

/** The groups of a site's pages: the number of each row's group, and how many groups there are. */
export type Groups = { readonly of: ArrayLike<number>; readonly count: number };

/** Days between the starts of two ordinary spells. */
const STEP_DAYS = 7;

/**
 * Assumed where a site is too young to show its own swing: standard deviations of about 20% for clicks and
 * impressions, 12% for CTR, 12% for position. They weigh as much as PRIOR_SPELLS spells apart from each other.
 */
const ASSUMED: Record<Metric, number> = { clicks: 0.04, impressions: 0.04, ctr: 0.015, position: 0.015 };
const PRIOR_SPELLS = 12;
/** Spells apart from each other that a page needs for its own swing to count as much as the site's. */
const PULL_SPELLS = 14;

/**
 * Runs the computation of a reading on all untouched pages at all past days (every seventh), and learns from it how
 * far pages wander, how much of a dip goes by itself, and how much the groups of pages differ.
 */
export function learnSwing(
  history: History,
  touched: Touched,
  groups: Groups,
  windowDays: number,
  settlingDays: number,
  lastReadable: Day,
): Swing {
  const days: Day[] = [];
  const first = history.firstDay + windowDays;
  const last = Math.min(lastReadable, history.lastDay) + 1 - windowDays - settlingDays;
  for (let day = last; day >= first; day -= STEP_DAYS) days.push(asDay(day));
  const columns = days.map((day) => compareRows(history, touched, day, windowDays, settlingDays));
  // Spells a week apart overlap; this many of them tell as much as one that stands alone.
  const overlapping = Math.max(1, (2 * windowDays + settlingDays) / STEP_DAYS);
  const learn = (metric: Metric) => learnMetric(metric, columns, groups, history.rows, overlapping);
  return {
    windowDays,
    settlingDays,
    days,
    metrics: Object.fromEntries(METRICS.map((metric) => [metric, learn(metric)])) as Record<
      Metric,
      MetricSwing
    >,
  };
}

/** One row at one past day: its move, dip and lean less those of the yardstick. */
type Spell = { column: number; row: number; move: number; dip: number; lean: number; weight: number };

/** Calls back for every fit cell with its move and dip against the yardstick made of the other rows. */
function eachSpell(
  metric: Metric,
  columns: readonly Column[],
  groups: Groups,
  spread: number,
  between: number,
  visit: (cell: Spell) => void,
  visitGroup?: (deviation: number, variance: number) => void,
): void {
  columns.forEach(({ moves: all, fit }, column) => {
    const moves = all[metric];
    const pools = poolMoves(moves, fit, groups.of, groups.count, spread);
    if (visitGroup && pools.site.pages > 0) {
      for (const group of pools.groups) {
        const others = pools.site.weight - group.weight;
        if (group.pages < 2 || others <= 0) continue;
        const rest = (pools.site.move * pools.site.weight - group.move * group.weight) / others;
        visitGroup(group.move - rest, 1 / group.weight + 1 / others);
      }
    }
    for (let row = 0; row < fit.length; row++) {
      if (fit[row] !== FIT) continue;
      const weight = rowWeight(moves, row, spread);
      if (weight === 0) continue;
      const yardstick = blend(
        without(pools.groups[groups.of[row]!]!, moves, row, weight),
        without(pools.site, moves, row, weight),
        between,
      );
      visit({
        column,
        row,
        move: moves.move[row]! - yardstick.move,
        dip: moves.dip[row]! - yardstick.dip,
        lean: moves.lean[row]! - yardstick.lean,
        weight,
      });
    }
  });
}

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
    const own = apart / (apart + PRIOR_SPELLS);
    return own * this.value + (1 - own) * assumed;
  }
}

function learnMetric(
  metric: Metric,
  columns: readonly Column[],
  groups: Groups,
  rows: number,
  overlapping: number,
): MetricSwing {
  const assumed = ASSUMED[metric];
  const prior: Moments = {
    move: assumed,
    dip: assumed,
    lean: assumed / 4,
    moveWithDip: -assumed / 4,
    moveWithLean: assumed / 8,
    dipWithLean: 0,
  };
  let moments = prior;
  let between = assumed / 10;
  for (let pass = 0; pass < 2; pass++) {
    const move = new Mean();
    const [dip, lean, moveWithDip, moveWithLean, dipWithLean] = [0, 1, 2, 3, 4].map(() => new Mean()) as [Mean, Mean, Mean, Mean, Mean];
    const group = new Mean();
    eachSpell(
      metric,
      columns,
      groups,
      moments.move,
      between,
      (spell) => {
        const noise = noiseOf(columns[spell.column]!.moves[metric], spell.row);
        const w = spell.weight * spell.weight;
        move.add(w, spell.move ** 2 - noise.before - noise.after);
        if (noise.long !== null) {
          dip.add(w, spell.dip ** 2 - noise.before - noise.long);
          moveWithDip.add(w, spell.move * spell.dip + noise.before);
        }
        if (noise.lean !== null) {
          lean.add(w, spell.lean ** 2 - noise.lean);
          moveWithLean.add(w, spell.move * spell.lean);
          if (noise.long !== null) dipWithLean.add(w, spell.dip * spell.lean);
        }
      },
      (deviation, variance) => {
        group.add(1 / variance, deviation * deviation - variance);
      },
    );
    const pulled = (mean: Mean, before: number) => mean.pulled(overlapping, before);
    const floor = assumed / 100;
    moments = {
      move: Math.max(floor, pulled(move, prior.move)),
      dip: Math.max(floor, pulled(dip, prior.dip)),
      lean: Math.max(floor / 4, pulled(lean, prior.lean)),
      moveWithDip: pulled(moveWithDip, prior.moveWithDip),
      moveWithLean: pulled(moveWithLean, prior.moveWithLean),
      dipWithLean: pulled(dipWithLean, prior.dipWithLean),
    };
    // A group is compared with the rest of the site, so that its deviation holds the variance of two.
    between = Math.max(0, group.value / 2);
  }
  return { moments, between, ...spellsOf(metric, columns, groups, rows, overlapping, moments, between) };
}

/** The net moves of all ordinary spells, how far each row's differ in size from the site's, and the reach of an interval. */
function spellsOf(
  metric: Metric,
  columns: readonly Column[],
  groups: Groups,
  rows: number,
  overlapping: number,
  moments: Moments,
  between: number,
): Pick<MetricSwing, 'extra' | 'residuals' | 'reach'> {
  const residuals = new Float32Array(rows * columns.length).fill(NaN);
  const variances = new Float32Array(rows * columns.length);
  // The older and the newer half of the days are kept apart.
  const excess = [new Float64Array(rows), new Float64Array(rows)] as const;
  const spells = [new Float64Array(rows), new Float64Array(rows)] as const;
  const halfOf = (column: number) => (column < columns.length / 2 ? 0 : 1);
  eachSpell(metric, columns, groups, moments.move, between, (spell) => {
    const { column, row } = spell;
    const noise = noiseOf(columns[column]!.moves[metric], row);
    const expected = recovery(moments, noise);
    const { variance } = expected;
    const net = spell.move - byItself(expected, noise, spell);
    const at = column * rows + row;
    residuals[at] = net;
    variances[at] = variance;
    const half = halfOf(column);
    excess[half][row]! += net * net - variance;
    spells[half][row]! += 1;
  });
  const pull = (sum: number, count: number) => {
    const apart = count / overlapping;
    return count > 0 ? (apart / (apart + PULL_SPELLS)) * (sum / count) : 0;
  };
  // A page's own part of its variance must not be judged by the spells it was made from: those of one half of the
  // days are held against the part learned from the other.
  const sizes: number[] = [];
  for (let at = 0; at < residuals.length; at++) {
    const net = residuals[at]!;
    if (net !== net) continue;
    const row = at % rows;
    const other = halfOf(Math.floor(at / rows)) === 0 ? 1 : 0;
    const variance = withExtra(variances[at]!, pull(excess[other][row]!, spells[other][row]!));
    sizes.push(Math.abs(net) / Math.sqrt(variance));
  }
  const extra = Float64Array.from({ length: rows }, (_, row) =>
    pull(excess[0][row]! + excess[1][row]!, spells[0][row]! + spells[1][row]!),
  );
  return { extra, residuals, reach: reachOf(sizes, overlapping) };
}

/** A row's variance with its own part, never less than a third of what the site as a whole would say. */
export function withExtra(variance: number, extra: number): number {
  return Math.max(variance / 3, variance + extra);
}

/** What of a row's move comes by itself, from its dip and its lean as far as they are known. */
export function byItself(
  { dipShare, leanShare }: Recovery,
  noise: Noise,
  { dip, lean }: { readonly dip: number; readonly lean: number },
): number {
  return (noise.long === null ? 0 : dipShare * dip) + (noise.lean === null ? 0 : leanShare * lean);
}

/** Counting noise of a row; the long level is absent where its dip is. */
export function noiseOf(moves: MetricMoves, row: number): Noise {
  const [dip, lean] = [moves.dip[row]!, moves.lean[row]!];
  return {
    before: moves.noiseBefore[row]!,
    after: moves.noiseAfter[row]!,
    long: dip === dip ? moves.noiseLong[row]! : null,
    lean: lean === lean ? moves.noiseLean[row]! : null,
  };
}

/**
 * What was learned is itself uncertain, and the spells it was learned from look a little too regular by it. On simulated
 * sites (docs/calibration.md) intervals without this held the truth about 87 times in a hundred instead of 90.
 */
const WIDER = 1.06;

/**
 * How many standard errors hold 90% of the ordinary spells: the normal distribution's 1.645 where there are few,
 * what was seen where there are many, since the tails of real moves are heavier.
 */
function reachOf(sizes: number[], overlapping: number): number {
  if (sizes.length === 0) return Z90;
  const sorted = Float64Array.from(sizes).sort();
  const seen = sorted[Math.floor(0.9 * sorted.length)]!;
  const apart = sizes.length / overlapping;
  const own = apart / (apart + 30);
  return WIDER * Math.min(3, Math.max(1.4, own * seen + (1 - own) * Z90));
}
