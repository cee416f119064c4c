/* The engine: compares rows of a site's history with what would have happened anyway, and keeps what it has learned. */

import { LRUCache } from 'lru-cache';
import { addDays, type Day } from '../calendar/day';
import type { Span } from '../calendar/span';
import type { History } from '../history/history';
import { ChangeIndex, type ChangedPages } from '../history/changeIndex';
import { averagePosition } from '../measures/totals';
import { MEASURES, METRICS, type Measure, type Metric } from '../measures/registry';
import { foreseenVariance, standingBefore } from './beforehand';
import { missedInCommon } from './commonVariance';
import { componentsOf } from '../measures/registry';
import { ControlDay } from './controlDay';
import { earlyBoundary, FIRST_LOOK, type EarlyBoundary } from './earlyLooks';
import { ownVariance, type Estimates } from './effect';
import { byMeasure, byMetric } from '../measures/registry';
import { FittedPanel } from './fittedPanel';
import type { Horizon } from './kriging';
import { JointMoves } from './jointWindows';
import { countPlaceboWindows, pooledEffect, rowEffect, type PlaceboCount } from './pooledEffect';
import { ownGroupWeight, rowEstimates, type HeldRows, type RowEstimates } from './rowEstimates';
import { Z90 } from '../statistics/normal';
import { minimumDetectableRatio, type Showable } from './power';
import type { Groups, Rows } from './rows';
import { strongest } from './strongest';
import { VERDICT_MEASURES, type VerdictMeasure } from '../measures/registry';
import { finished, NotFittedError, type FitMode } from './incrementalFit';
import { learnSwing, type NullDistribution } from './nullDistribution';
import { untouched } from './untouched';
import { workingOf, type Working } from './working';

/** Rows that stand for what would have happened anyway, by their ids, with weights (1 where none are given). */
export type ControlRows = { readonly ids: readonly number[]; readonly weights?: readonly number[] };

/** What is compared: rows by their ids, from `day` on, against the weeks before it. */
export type Asked = {
  readonly ids: readonly number[];
  readonly day: Day;
  readonly horizon: Horizon;
  /** The control; absent: the yardstick, all control rows that nobody touched. */
  readonly control?: ControlRows;
};

/** The control that rows were held against. Moves are log ratios of the two spans; position as the ratio of positions. */
export type ControlSeen = {
  readonly kind: 'yardstick' | 'chosen';
  readonly pages: number;
  /** The number of the rows' group, where they are of one; how many control rows it has and how much they count, from 0 to 1. */
  readonly group: number | null;
  readonly groupPages: number;
  readonly groupWeight: number;
  /** Whether groups were learned from the movement. */
  readonly groupLearned: boolean;
  readonly move: Readonly<Record<Metric, number | null>>;
  /** Share of the variance of untouched rows' showings that the control takes away; below 0 it adds to it. */
  readonly tracking: number | null;
};

/** One row's own net effects. */
export type RowEffects = {
  readonly id: number;
  readonly effects: Estimates;
  readonly positionAfter: number | null;
};

/** Rows held against a control: net effects, pooled where there are several rows. */
export type Comparison = {
  readonly effects: Estimates;
  readonly rows: readonly RowEffects[];
  readonly control: ControlSeen;
  readonly placebo: (measure: Measure) => PlaceboCount;
  /** What the strongest measure has to pass to be called (see `whatMoved`). */
  readonly cut: number;
  /** How far clicks stood from their level before the change, and the last week from the month, in standard deviations. */
  readonly dip: number | null;
  readonly preTrend: number | null;
};

/** What a daily look calls before the days are over: which measure, and after how many days it was plain first. */
export type EarlyCall = { readonly measure: VerdictMeasure; readonly up: boolean; readonly look: number };

/** Swings of so many horizons, controls of so many days, and the joint windows of so many sets of rows are kept. */
const [MOST_SWINGS, MOST_CONTROLS, MOST_WITHOUT_OWN, MOST_JOINT] = [24, 2000, 8, 200];
/** Days over which the recent level is taken for what rows could show. */
const RECENT_HORIZON = 28;

/** Compares rows of a site's history. What it has learned once it keeps. */
export class EffectEngine {
  private readonly ground: FittedPanel;
  private readonly swings = new LRUCache<string, NullDistribution>({ max: MOST_SWINGS });
  private readonly underWay = new Map<string, Generator<void, void>>();
  private readonly boundaries = new LRUCache<string, EarlyBoundary>({ max: MOST_SWINGS });
  private readonly controls = new LRUCache<string, ControlDay>({ max: MOST_CONTROLS });
  /** Controls without rows that would stand in them themselves: whoever asks for one asks for several measures. */
  private readonly withoutOwn = new LRUCache<string, ControlDay>({ max: MOST_WITHOUT_OWN });
  private readonly joint = new LRUCache<string, JointMoves>({ max: MOST_JOINT });
  private readonly controlList: readonly number[];

  /** `lastReadable` is the newest day that may be read; `roles` say which rows may be control and which the swing is learned from, `pace` how. */
  constructor(
    readonly history: History,
    groups: Groups,
    changes: readonly ChangedPages[],
    private readonly lastReadable: Day,
    roles: Partial<Pick<Rows, 'control' | 'learnedFrom'>> = {},
    private readonly pace: FitMode = { inSteps: false },
  ) {
    const all = new Uint8Array(history.rows).fill(1);
    const { control = all, learnedFrom = all } = roles;
    const rows: Rows = { history, touched: new ChangeIndex(history, changes), groups, control, learnedFrom };
    this.ground = new FittedPanel(rows, Math.min(lastReadable, history.lastDay) as Day);
    this.controlList = [...control.keys()].filter((row) => control[row] !== 0);
  }

  /** The ordinary swing over a horizon. Throws NotFittedError where it is to be learned in steps. */
  swing(horizon: Horizon): NullDistribution {
    return remember(this.swings, keyOf(horizon), () => {
      if (this.pace.inSteps) throw new NotFittedError(() => this.learning(horizon));
      return finished(learnSwing(this.ground, horizon));
    });
  }

  /** The steps that are left to learn a swing: whoever asks for one that is under way goes on with it. */
  private learning(horizon: Horizon): Generator<void, void> {
    const steps = this.underWay.get(keyOf(horizon)) ?? this.stepsOf(horizon);
    this.underWay.set(keyOf(horizon), steps);
    return steps;
  }

  private *stepsOf(horizon: Horizon): Generator<void, void> {
    this.swings.set(keyOf(horizon), yield* learnSwing(this.ground, horizon));
    this.underWay.delete(keyOf(horizon));
  }

  /** Compares rows over a horizon; null where none of them has figures. */
  compare(asked: Asked): Comparison | null {
    const rows = this.rowsOf(asked.ids);
    if (rows.length === 0) return null;
    const held = this.held(asked, rows);
    const { swing } = held;
    const estimates = rowEstimates(held, MEASURES);
    const moves = this.jointMoves(asked.horizon, rows);
    const effects = byMeasure((measure) => {
      const known = estimates.flatMap((one) => one[measure] ?? []);
      return known.length === 0 ? null : pooledEffect(measure, known, moves);
    });
    return {
      effects,
      rows: this.rowEffects(asked, rows, estimates, swing),
      control: this.controlSeen(asked, held, ownGroupWeight(held, estimates)),
      placebo: (measure) => countPlaceboWindows(measure, effects[measure], rows, swing),
      cut: swing.cut,
      ...standingBefore(this.ground, asked.day, rows),
    };
  }

  /**
   * The rows' own net effects as they stand after so many days of the horizon, each by itself and held against what rows do over the whole
   * of it: a look before the days are over, or on the last of them. Measures that are not asked for are null.
   */
  look(asked: Asked, days: number, measures: readonly Measure[] = MEASURES): RowEffects[] {
    const rows = this.rowsOf(asked.ids);
    const soFar = { ...asked, horizon: { ...asked.horizon, days } };
    const swing = this.swing(asked.horizon);
    return this.rowEffects(soFar, rows, rowEstimates(this.held(soFar, rows, swing), measures), swing);
  }

  /**
   * The variance of what the control misses of the effects of some rows all at once, by measure, as far as their past before the day tells; null where too few rows stand in it to
   * be held against.
   */
  commonVariances<M extends Measure>(
    asked: Asked,
    rows: readonly RowEffects[],
    measures: readonly M[],
  ): Record<M, number | null> {
    const list = rows.map(({ id }) => this.history.row(id)!);
    const moves = this.jointMoves(asked.horizon, list, asked.day);
    return missedInCommon(this.held(asked, list), moves, measures, (measure) =>
      rows.map(({ effects: { [measure]: one } }) => (one ? 1 / ownVariance(one) : 0)),
    );
  }

  /** Everything that the estimate of a measure is made from; null where there is none. */
  working(asked: Asked, measure: Measure): Working | null {
    const rows = this.rowsOf(asked.ids);
    const held = this.held(asked, rows);
    const known = rowEstimates(held, [measure]).flatMap((one) => one[measure] ?? []);
    if (known.length === 0) return null;
    const moves = this.jointMoves(asked.horizon, rows);
    const estimate = pooledEffect(measure, known, moves);
    return workingOf(measure, estimate, { ...held, rows: known.map(({ row }) => row) }, moves);
  }

  /** The joint placebo windows of rows, which every reading of them asks for: those over before a day, or all. */
  private jointMoves(horizon: Horizon, rows: readonly number[], before: Day | null = null): JointMoves {
    const make = () => new JointMoves({ ground: this.ground, swing: this.swing(horizon), rows, before });
    // One row by itself has nothing in common with others, and is not kept in their place.
    return rows.length < 2
      ? make()
      : remember(this.joint, `${keyOf(horizon)}/${before ?? ''}/${rows.join()}`, make);
  }

  /** Rows with all that they are held against. */
  private held(asked: Asked, rows: readonly number[], swing = this.swing(asked.horizon)): HeldRows {
    const { day, horizon } = asked;
    return { ground: this.ground, swing, on: this.controlOn(asked), day, horizon, rows };
  }

  private rowEffects(
    asked: Asked,
    rows: readonly number[],
    estimates: RowEstimates,
    swing: NullDistribution,
  ): RowEffects[] {
    const after = afterSpan(asked);
    return rows.map((row, i) => ({
      id: this.history.idOf(row),
      effects: byMeasure((measure) => {
        const one = estimates[i]![measure];
        return one && rowEffect(measure, one, swing);
      }),
      positionAfter: averagePosition(this.history.totals(row, after)),
    }));
  }

  /**
   * The first look, on any day after settling up to `looks` days on, at which the rows had plainly moved, as long as what they do now goes
   * the same way; null where there was none.
   */
  early({ ids, day, horizon, control }: Asked, looks: number): EarlyCall | null {
    const rows = this.rowsOf(ids);
    const last = Math.min(looks, horizon.days - 1);
    if (rows.length === 0 || last < FIRST_LOOK) return null;
    const swing = this.swing(horizon);
    const boundary = this.boundary(horizon);
    const moves = this.jointMoves(horizon, rows);
    const at = (look: number) => {
      const asked: Asked = { ids, day, horizon: { ...horizon, days: look }, ...(control ? { control } : {}) };
      const estimates = rowEstimates(this.held(asked, rows, swing), VERDICT_MEASURES);
      return strongest((measure) => {
        const known = estimates.flatMap((one) => one[measure] ?? []);
        if (known.length === 0) return NaN;
        const { net, standardError, critical } = pooledEffect(measure, known, moves);
        return net / standardError / critical;
      });
    };
    const now = at(last);
    if (!now) return null;
    for (let look = FIRST_LOOK; look <= last; look++) {
      const top = look === last ? now : at(look);
      if (top && top.agrees && top.strength > boundary[look]!)
        return top.up === now.up ? { measure: top.measure, up: top.up, look } : null;
    }
    return null;
  }

  /** The ids of the rows that make up the yardstick over a horizon. */
  controlIds(day: Day, horizon: Horizon): number[] {
    const rows = this.controlOn({ ids: [], day, horizon }).rows('appeal');
    return rows.map((row) => this.history.idOf(row));
  }

  /** The groups of rows that move together as known on a day; the ids of each, groups by their numbers. */
  groupsAt(day: Day): { readonly learned: boolean; readonly groups: readonly (readonly number[])[] } {
    const { learned, groups } = this.ground.groupsAt(day);
    const ids: number[][] = Array.from({ length: groups.count }, () => []);
    for (let row = 0; row < this.history.rows; row++) ids[groups.of[row]!]?.push(this.history.idOf(row));
    return { learned, groups: ids };
  }

  /**
   * The path of the yardstick over the days shown, a log ratio to the level of the before span for each day and metric (null where
   * unknown), over the week around each day; null where none of the rows has figures.
   */
  path(asked: Asked, before: Span, shown: Span): Readonly<Record<Metric, readonly (number | null)[]>> | null {
    const [row] = this.rowsOf(asked.ids);
    if (row === undefined) return null;
    const swing = this.swing(asked.horizon);
    const ratios = this.ratiosOf(this.controlOn(asked), asked.day, row, swing);
    const path = byMetric((): (number | null)[] => []);
    for (let day = shown.firstDay; day <= shown.lastDay; day = addDays(day, 1)) {
      const week = { firstDay: addDays(day, -HALF_WEEK), lastDay: addDays(day, HALF_WEEK) };
      const known = this.history.covered(week) > HALF_WEEK;
      for (const metric of METRICS) path[metric].push(known ? ratios(metric, before, week) : null);
    }
    return path;
  }

  /**
   * The smallest effect these rows could show over each number of days, with 80% power, at the level of the weeks before
   * `day`. Empty where they have no figures.
   */
  showable(
    metric: Metric,
    day: Day,
    ids: readonly number[],
    lengths: readonly number[],
    settlingDays: number,
  ): Showable[] {
    const rows = this.rowsOf(ids);
    const from = Math.min(day, this.lastReadable + 1) as Day;
    const swing = this.swing({ settlingDays, days: RECENT_HORIZON });
    const { criticalValue } = swing.measures[metric];
    return lengths.flatMap((windowDays) => {
      const horizon = { settlingDays, days: windowDays };
      const weight = rows.reduce((sum, row) => {
        const variance = foreseenVariance(this.ground, swing, metric, { row, from, horizon });
        return variance > 0 ? sum + 1 / variance : sum;
      }, 0);
      return weight > 0
        ? { windowDays, ratio: minimumDetectableRatio(Math.sqrt(1 / weight), criticalValue) }
        : [];
    });
  }

  /**
   * The variance that each row's net effect on a measure would have over a horizon from `day` on, without that of the control, as its interval
   * stands for it (see `varianceOf`); NaN for rows whose past says too little, or that are not there.
   */
  foreseenVariances(measure: Measure, day: Day, ids: readonly number[], horizon: Horizon): number[] {
    const swing = this.swing({ settlingDays: horizon.settlingDays, days: RECENT_HORIZON });
    const from = Math.min(day, this.lastReadable + 1) as Day;
    const stretch = (swing.measures[measure].criticalValue / Z90) ** 2;
    return ids.map((id) => {
      const row = this.history.row(id);
      if (row === undefined) return NaN;
      return stretch * foreseenVariance(this.ground, swing, measure, { row, from, horizon });
    });
  }

  /** Learns what readings over a horizon need, and looks before its days are over, so that the first does not wait for it. */
  learn(horizon: Horizon, { looks = false } = {}): void {
    this.swing(horizon);
    if (looks) this.boundary(horizon);
  }

  private boundary(horizon: Horizon): EarlyBoundary {
    return remember(this.boundaries, keyOf(horizon), () => [
      ...earlyBoundary(this.ground, this.swing(horizon)),
    ]);
  }

  private rowsOf(ids: readonly number[]): number[] {
    return [...new Set(ids)].flatMap((id) => this.history.row(id) ?? []);
  }

  /** The share of each row in the control: 1 for the untouched of the yardstick, or as it was chosen; each counts once. */
  private shareOf({ day, horizon, control }: Asked): Float64Array {
    const fit = untouched(this.ground.rows, day, horizon);
    const share = new Float64Array(this.history.rows);
    if (control) {
      control.ids.forEach((id, i) => {
        const row = this.history.row(id);
        if (row !== undefined) share[row] = control.weights?.[i] ?? 1;
      });
    } else for (const row of this.controlList) share[row] = fit[row]!;
    return share;
  }

  /** The control, kept by day where it is the yardstick; rows that would stand in it themselves are held against the others. */
  private controlOn(asked: Asked): ControlDay {
    const { ids, day, horizon, control } = asked;
    const make = (without: readonly number[]) => {
      const share = this.shareOf(asked);
      for (const row of without) share[row] = 0;
      return new ControlDay(this.ground, day, horizon, share, control === undefined);
    };
    const own = this.rowsOf(ids);
    if (control) return make(own);
    const shared = remember(this.controls, `${day}/${keyOf(horizon)}`, () => make([]));
    if (!own.some((row) => shared.has(row))) return shared;
    return remember(this.withoutOwn, `${day}/${keyOf(horizon)}/${own.join()}`, () => make(own));
  }

  private controlSeen(asked: Asked, { rows, swing, on }: HeldRows, own: number): ControlSeen {
    const { groups, learned } = this.ground.groupsAt(asked.day);
    const inGroups = [...new Set(rows.map((row) => groups.of[row]!))];
    const control = on.of('showings');
    const before: Span = {
      firstDay: addDays(asked.day, -asked.horizon.days),
      lastDay: addDays(asked.day, -1),
    };
    const ratios = this.ratiosOf(on, asked.day, rows[0]!, swing);
    return {
      kind: asked.control ? 'chosen' : 'yardstick',
      pages: control.rows,
      group: inGroups.length === 1 && !asked.control ? inGroups[0]! : null,
      groupPages: inGroups.reduce((sum, group) => sum + control.groupRows[group]!, 0),
      groupWeight: own,
      groupLearned: learned,
      move: byMetric((metric) => ratios(metric, before, afterSpan(asked))),
      tracking: swing.components.showings.tracking,
    };
  }

  /** The log ratio of the control between two spans by metric, as it applies to a row. */
  private ratiosOf(on: ControlDay, day: Day, row: number, { components }: NullDistribution) {
    const group = this.ground.groupsAt(day).groups.of[row]!;
    return (metric: Metric, before: Span, after: Span): number | null =>
      componentsOf(metric).reduce<number | null>((sum, component) => {
        const ratio = on.ratio(component, group, components[component].between, before, after);
        return sum === null || ratio === null ? null : sum + ratio;
      }, 0);
  }
}

/** Days before and after the middle of the week over which a day of the path is taken, to leave the weekday out. */
const HALF_WEEK = 3;

const keyOf = ({ days, settlingDays }: Horizon) => `${days}/${settlingDays}`;

function afterSpan({ day, horizon }: Asked): Span {
  const firstDay = addDays(day, horizon.settlingDays);
  return { firstDay, lastDay: addDays(firstDay, horizon.days - 1) };
}

/** What a cache holds under a key, made at the first call. */
function remember<T extends object>(kept: LRUCache<string, T>, key: string, make: () => T): T {
  const known = kept.get(key);
  if (known !== undefined) return known;
  const made = make();
  kept.set(key, made);
  return made;
}
