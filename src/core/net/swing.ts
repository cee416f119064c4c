import { asDay, type Day } from '../calendar/day';
import type { History } from '../history/history';
import type { Touched } from '../history/touched';
import type { Metric } from '../model/change';
import { byMetric } from './effect';
import { recovery, type Moments, type Recovery, type Noise } from './recovery';
import { reachOf } from './reach';
import { eachSpell, noiseOf, type Groups, type Roles } from './spells';
import { compareRows, makeRoom, type Column } from './untouched';

/** What is learned of one metric from the site's untouched pages at all past days. */
export type MetricSwing = {
  readonly moments: Moments;
  /** Variance of a group's move about the site's. */
  readonly between: number;
  /** Half-width of the 90% interval in standard errors, as large as it has to be to hold 90% of the ordinary spells. */
  readonly reach: number;
  /** What each row's variance has more or less than the site's, pulled toward nought the fewer spells it has. */
  readonly extra: Float64Array;
  /** Net moves of ordinary spells, entry `column * rows + row`; NaN where the page was touched or is absent. */
  readonly residuals: Float32Array;
  /** Share of the variance of pages' moves that the yardstick takes away; below 0 it adds to it. Null without spells. */
  readonly tracking: number | null;
};

/** The ordinary swing of a site for spans of one length. */
export type Swing = {
  readonly windowDays: number;
  readonly settlingDays: number;
  /** The days at which the computation was run: every seventh, from the newest on back. */
  readonly days: readonly Day[];
  /** Spells a week apart overlap; so many of them tell as much as one that stands alone. */
  readonly overlapping: number;
  readonly metrics: Readonly<Record<Metric, MetricSwing>>;
};

/** Days between the starts of two ordinary spells. */
const STEP_DAYS = 7;

/**
 * Assumed where a site is too young to show its own swing, as variances: standard deviations of about 20% for clicks
 * and impressions, 12% for CTR and position. They weigh as much as PRIOR_SPELLS spells apart from each other.
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
  roles: Roles,
): Swing {
  const days: Day[] = [];
  const first = history.firstDay + windowDays;
  const last = Math.min(lastReadable, history.lastDay) + 1 - windowDays - settlingDays;
  for (let day = last; day >= first; day -= STEP_DAYS) days.push(asDay(day));
  const room = makeRoom(history.rows);
  const columns = days.map((day) =>
    compareRows(history, touched, day, windowDays, settlingDays, history.rows, room, true),
  );
  const overlapping = Math.max(1, (2 * windowDays + settlingDays) / STEP_DAYS);
  const ground: Ground = { columns, groups, roles, rows: history.rows, overlapping };
  const metrics = byMetric((metric) => learnMetric(metric, ground));
  return { windowDays, settlingDays, days, overlapping, metrics };
}

/** What all metrics are learned from. */
type Ground = {
  readonly columns: readonly Column[];
  readonly groups: Groups;
  readonly roles: Roles;
  readonly rows: number;
  readonly overlapping: number;
};

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

function learnMetric(metric: Metric, ground: Ground): MetricSwing {
  const assumed = ASSUMED[metric];
  let moments: Moments = {
    move: assumed,
    dip: assumed,
    lean: assumed / 4,
    moveWithDip: -assumed / 4,
    moveWithLean: assumed / 8,
    dipWithLean: 0,
  };
  let between = assumed / 10;
  // The first pass sets the weights of the second.
  for (let pass = 0; pass < 2; pass++)
    ({ moments, between } = learnMoments(metric, ground, moments, between));
  return { moments, between, ...learnSpells(metric, ground, moments, between) };
}

/** Variances and covariances beyond counting, and that between groups, with weights from an earlier estimate. */
function learnMoments(metric: Metric, ground: Ground, earlier: Moments, earlierBetween: number) {
  const { columns, groups, roles, overlapping } = ground;
  const assumed = ASSUMED[metric];
  const [move, dip, lean, moveWithDip, moveWithLean, dipWithLean, group] = Array.from(
    { length: 7 },
    () => new Mean(),
  ) as [Mean, Mean, Mean, Mean, Mean, Mean, Mean];
  eachSpell(
    metric,
    columns,
    groups,
    roles,
    earlier.move,
    earlierBetween,
    (spell) => {
      if (spell.weight === 0) return;
      const moves = columns[spell.column]!.moves[metric];
      const before = moves.noiseBefore[spell.row]!;
      const w = spell.weight * spell.weight;
      move.add(w, spell.move * spell.move - before - moves.noiseAfter[spell.row]!);
      const [hasDip, hasLean] = [spell.dip === spell.dip, spell.lean === spell.lean];
      if (hasDip) {
        dip.add(w, spell.dip * spell.dip - before - moves.noiseLong[spell.row]!);
        moveWithDip.add(w, spell.move * spell.dip + before);
      }
      if (hasLean) {
        lean.add(w, spell.lean * spell.lean - moves.noiseLean[spell.row]!);
        moveWithLean.add(w, spell.move * spell.lean);
      }
      if (hasDip && hasLean) dipWithLean.add(w, spell.dip * spell.lean);
    },
    (deviation, variance) => group.add(1 / variance, deviation * deviation - variance),
  );
  const atLeast = (least: number, value: number) => Math.max(least, value);
  const moments: Moments = {
    move: atLeast(assumed / 100, move.pulled(overlapping, assumed)),
    dip: atLeast(assumed / 100, dip.pulled(overlapping, assumed)),
    lean: atLeast(assumed / 400, lean.pulled(overlapping, assumed / 4)),
    moveWithDip: moveWithDip.pulled(overlapping, -assumed / 4),
    moveWithLean: moveWithLean.pulled(overlapping, assumed / 8),
    dipWithLean: dipWithLean.pulled(overlapping, 0),
  };
  // A group was compared with the rest of the site, so its deviation holds the variance of two.
  return { moments, between: atLeast(0, group.value / 2) };
}

/** The net moves of all ordinary spells, how far each row's differ in size from the site's, and the reach of an interval. */
function learnSpells(
  metric: Metric,
  { columns, groups, roles, rows, overlapping }: Ground,
  moments: Moments,
  between: number,
): Pick<MetricSwing, 'extra' | 'residuals' | 'reach' | 'tracking'> {
  const residuals = new Float32Array(rows * columns.length).fill(NaN);
  const variances = new Float32Array(rows * columns.length);
  // The older and the newer half of the days are kept apart.
  const excess = [new Float64Array(rows), new Float64Array(rows)] as const;
  const spells = [new Float64Array(rows), new Float64Array(rows)] as const;
  const halfOf = (column: number) => (column < columns.length / 2 ? 0 : 1);
  const [plain, against] = [new Mean(), new Mean()];
  eachSpell(metric, columns, groups, roles, moments.move, between, (spell) => {
    const { column, row } = spell;
    const moves = columns[column]!.moves[metric];
    const noise = noiseOf(moves, row);
    const expected = recovery(moments, noise);
    const net = spell.move - byItself(expected, noise, spell);
    const at = column * rows + row;
    residuals[at] = net;
    // Rows that say too little are not judged by; their variance is marked as unknown.
    variances[at] = spell.weight > 0 ? expected.variance : NaN;
    const half = halfOf(column);
    excess[half][row]! += net * net - expected.variance;
    spells[half][row]! += 1;
    plain.add(spell.weight, moves.move[row]! ** 2);
    against.add(spell.weight, spell.move ** 2);
  });
  const pull = (sum: number, count: number) => {
    const apart = count / overlapping;
    return count > 0 ? (apart / (apart + PULL_SPELLS)) * (sum / count) : 0;
  };
  // A page's own part of its variance must not be judged by the spells it was made from: those of one half of the
  // days are held against the part learned from the other.
  const sizes: number[] = [];
  for (let at = 0; at < residuals.length; at++) {
    const variance = variances[at]!;
    if (Number.isNaN(residuals[at]!) || Number.isNaN(variance)) continue;
    const row = at % rows;
    const other = halfOf(Math.floor(at / rows)) === 0 ? 1 : 0;
    const pulled = pull(excess[other][row]!, spells[other][row]!);
    sizes.push(Math.abs(residuals[at]!) / Math.sqrt(withExtra(variance, pulled)));
  }
  return {
    residuals,
    extra: Float64Array.from({ length: rows }, (_, row) =>
      pull(excess[0][row]! + excess[1][row]!, spells[0][row]! + spells[1][row]!),
    ),
    reach: reachOf(sizes, overlapping),
    tracking: plain.value > 0 ? 1 - against.value / plain.value : null,
  };
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
