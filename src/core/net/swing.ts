import { asDay, type Day } from '../calendar/day';
import type { History } from '../history/history';
import type { Touched } from '../history/touched';
import type { Metric } from '../model/change';
import { byMetric } from './effect';
import { byPart, PARTS_OF, type Part } from './parts';
import { recovery, strain, strained, type Moments, type Recovery, type Noise } from './recovery';
import { reachOf } from './reach';
import { eachSpell, noiseOf, type Groups, type Roles } from './spells';
import { compareRows, makeRoom, type Column } from './untouched';

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
  /** Share of the variance of pages' moves that the yardstick takes away; below 0 it adds to it. Null without spells. */
  readonly tracking: number | null;
};

/** How far one metric wanders, from the net moves of ordinary spells. */
export type MetricSwing = {
  /** Half-width of the 90% interval in standard errors, as large as it has to be to hold 90% of the ordinary spells. */
  readonly reach: number;
  /** What the parts of the metric have in common beyond what each has by itself, as a variance. */
  readonly coupling: number;
  /** What each row's variance has more or less than the site's, pulled toward nought the fewer spells it has. */
  readonly extra: Float64Array;
  /** Net moves of ordinary spells, entry `column * rows + row`; NaN where the page was touched or is absent. */
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
  readonly parts: Readonly<Record<Part, Learned>>;
  readonly metrics: Readonly<Record<Metric, MetricSwing>>;
};

/** Days between the starts of two ordinary spells. */
const STEP_DAYS = 7;

/**
 * Assumed where a site is too young to show its own swing, as variances: standard deviations of about 20% for
 * impressions, 12% for CTR and position. They weigh as much as PRIOR_SPELLS spells apart from each other.
 */
const ASSUMED: Record<Part, number> = { impressions: 0.04, ctr: 0.015, position: 0.015 };
const PRIOR_SPELLS = 12;
/** What the variance of a move grows by for each unit of strain, where little is known, and at most. */
const ASSUMED_PER_STRAIN = 0.05;
const MOST_PER_STRAIN = 0.25;
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
  const spells = byPart((part) => learnPart(part, ground));
  return {
    ...{ windowDays, settlingDays, days, overlapping },
    parts: byPart((part) => spells[part].learned),
    metrics: byMetric((metric) =>
      judge(
        PARTS_OF[metric].map((part) => spells[part]),
        ground,
      ),
    ),
  };
}

/** What all parts are learned from. */
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

/** What is learned of a part, and the net move of every ordinary spell with the variance to be expected of it. */
type PartSpells = {
  readonly learned: Learned;
  readonly residuals: Float32Array;
  /** NaN for rows that say too little to be judged by. */
  readonly variances: Float32Array;
};

function learnPart(part: Part, ground: Ground): PartSpells {
  const assumed = ASSUMED[part];
  let moments: Moments = {
    move: assumed,
    dip: assumed,
    lean: assumed / 4,
    moveWithDip: -assumed / 4,
    moveWithLean: assumed / 8,
    dipWithLean: 0,
  };
  let between = assumed / 10;
  // A first look at a part of the days sets the weights of the second.
  const glance = { ...ground, columns: ground.columns.filter((_, i) => i % 4 === 0) };
  for (const looked of [glance, ground])
    ({ moments, between } = learnMoments(part, looked, moments, between));
  return partSpells(part, ground, moments, between);
}

/** Variances and covariances beyond counting, and that between groups, with weights from an earlier estimate. */
function learnMoments(part: Part, ground: Ground, earlier: Moments, earlierBetween: number) {
  const { columns, groups, roles, rows, overlapping } = ground;
  const assumed = ASSUMED[part];
  const [move, dip, lean, moveWithDip, moveWithLean, dipWithLean, group] = Array.from(
    { length: 7 },
    () => new Mean(),
  ) as [Mean, Mean, Mean, Mean, Mean, Mean, Mean];
  eachSpell(
    part,
    columns,
    groups,
    roles,
    earlier.move,
    earlierBetween,
    // Of a site's pages those of the yardstick are enough to learn from; single queries only have themselves.
    { from: roles.firstSubject, to: roles.firstSubject === 0 ? roles.yardstick : rows },
    (spell) => {
      if (spell.weight === 0) return;
      const moves = columns[spell.column]!.moves[part];
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

/** The net moves of all ordinary spells of a part, with the variance to be expected of each. */
function partSpells(
  part: Part,
  { columns, groups, roles, rows, overlapping }: Ground,
  moments: Moments,
  between: number,
): PartSpells {
  const residuals = new Float32Array(rows * columns.length).fill(NaN);
  const variances = new Float32Array(rows * columns.length).fill(NaN);
  const strains = new Float32Array(rows * columns.length);
  const [plain, against, slope] = [new Mean(), new Mean(), new Mean()];
  eachSpell(
    part,
    columns,
    groups,
    roles,
    moments.move,
    between,
    { from: roles.firstSubject, to: rows },
    (spell) => {
      const moves = columns[spell.column]!.moves[part];
      const noise = noiseOf(moves, spell.row);
      const expected = recovery(moments, noise);
      const at = spell.column * rows + spell.row;
      const net = spell.move - byItself(expected, noise, spell);
      residuals[at] = net;
      if (spell.weight > 0) {
        variances[at] = expected.variance;
        strains[at] = strain(moments, noise, spell.dip);
        slope.add(
          strains[at]! ** 2,
          strains[at] === 0 ? 0 : ((net * net) / expected.variance - 1) / strains[at]!,
        );
      }
      plain.add(spell.weight, moves.move[spell.row]! ** 2);
      against.add(spell.weight, spell.move ** 2);
    },
  );
  const tracking = plain.value > 0 ? 1 - against.value / plain.value : null;
  const perStrain = Math.min(MOST_PER_STRAIN, Math.max(0, slope.pulled(overlapping, ASSUMED_PER_STRAIN)));
  for (let at = 0; at < variances.length; at++)
    variances[at] = strained(variances[at]!, strains[at]!, perStrain);
  return { learned: { moments, between, perStrain, tracking }, residuals, variances };
}

/** How far a metric made of these parts wanders: what each row has of its own, and the reach of an interval. */
function judge(parts: readonly PartSpells[], { rows, columns, overlapping }: Ground): MetricSwing {
  const [first, second] = parts as [PartSpells, PartSpells?];
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
    return count > 0 ? (alone / (alone + PULL_SPELLS)) * (sum / count) : 0;
  };
  // A page's own part of its variance must not be judged by the spells it was made from: those of one half of the
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
    reach: reachOf(sizes, overlapping),
  };
}

function added(a: Float32Array, b: Float32Array): Float32Array {
  return a.map((value, i) => value + b[i]!);
}

/** The variance of two parts together, which can never be less than half of what they have apart. */
export function coupled(apart: number, coupling: number): number {
  return Math.max(apart / 2, apart + coupling);
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
