/* The engine: compares rows of a history with their control, and caches what it has fitted. */

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
import { maxStatistic } from './maxStatistic';
import { VERDICT_MEASURES, type VerdictMeasure } from '../measures/registry';
import { finished, NotFittedError, type FitMode } from './incrementalFit';
import { learnSwing, type NullDistribution } from './nullDistribution';
import { untouched } from './untouched';
import { workingOf, type Working } from './working';

/** Control rows by id, with weights (1 by default). */
export type ControlRows = { readonly ids: readonly number[]; readonly weights?: readonly number[] };

/** What is compared: rows by their ids, from `day` on, against the weeks before it. */
export type ComparisonRequest = {
  readonly ids: readonly number[];
  readonly day: Day;
  readonly horizon: Horizon;
  /** The control; absent: the yardstick, all control rows that nobody touched. */
  readonly control?: ControlRows;
};

/**
 * The control of a comparison. Moves are log ratios of the two spans; of position, of positions.
 */
export type ControlSeen = {
  readonly kind: 'yardstick' | 'chosen';
  readonly pages: number;
  /**
   * The group of the rows if they share one; its rows in the control, and their weight, from 0 to
   * 1.
   */
  readonly group: number | null;
  readonly groupPages: number;
  readonly groupWeight: number;
  /** Whether groups were learned from the movement. */
  readonly groupLearned: boolean;
  readonly move: Readonly<Record<Metric, number | null>>;
  /** Share of the variance of unchanged rows that the control removes; below 0 it adds variance. */
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
  /** What the strongest measure has to pass to be called (see `movedMeasures`). */
  readonly cut: number;
  /** Dip and pre-trend of clicks before the change, in standard deviations. */
  readonly dip: number | null;
  readonly preTrend: number | null;
};

/**
 * An early call: the measure, its direction, and how many days after settling it was first plain.
 */
export type EarlyCall = { readonly measure: VerdictMeasure; readonly up: boolean; readonly look: number };

/** How many null distributions (by horizon), controls (by day) and joint windows are cached. */
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
  /** Controls that leave out their own rows: callers ask for several measures of one comparison. */
  private readonly withoutOwn = new LRUCache<string, ControlDay>({ max: MOST_WITHOUT_OWN });
  private readonly joint = new LRUCache<string, JointMoves>({ max: MOST_JOINT });
  private readonly controlList: readonly number[];

  /**
   * @param lastReadable the newest day that may be read
   * @param roles which rows can be control, and which the null distribution is estimated from
   * @param pace whether to fit at once or incrementally
   */
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

  /**
   * The null distribution of a horizon. Throws NotFittedError if it is to be fitted incrementally.
   */
  swing(horizon: Horizon): NullDistribution {
    return remember(this.swings, keyOf(horizon), () => {
      if (this.pace.inSteps) throw new NotFittedError(() => this.learning(horizon));
      return finished(learnSwing(this.ground, horizon));
    });
  }

  /** The remaining steps of fitting a null distribution; shared by all callers that wait for it. */
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
  compare(asked: ComparisonRequest): Comparison | null {
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
   * Net effects of each row after `days` days of the horizon, against the null distribution of the
   * whole horizon: a look before the span is over, or on its last day. Measures that aren’t asked
   * for are null.
   */
  look(asked: ComparisonRequest, days: number, measures: readonly Measure[] = MEASURES): RowEffects[] {
    const rows = this.rowsOf(asked.ids);
    const soFar = { ...asked, horizon: { ...asked.horizon, days } };
    const swing = this.swing(asked.horizon);
    return this.rowEffects(soFar, rows, rowEstimates(this.held(soFar, rows, swing), measures), swing);
  }

  /**
   * Variance of the error that the effects of these rows share, by measure, as far as their past
   * shows it. Null if the control has too few rows.
   */
  commonVariances<M extends Measure>(
    asked: ComparisonRequest,
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
  working(asked: ComparisonRequest, measure: Measure): Working | null {
    const rows = this.rowsOf(asked.ids);
    const held = this.held(asked, rows);
    const known = rowEstimates(held, [measure]).flatMap((one) => one[measure] ?? []);
    if (known.length === 0) return null;
    const moves = this.jointMoves(asked.horizon, rows);
    const estimate = pooledEffect(measure, known, moves);
    return workingOf(measure, estimate, { ...held, rows: known.map(({ row }) => row) }, moves);
  }

  /** Joint placebo windows of rows: those that end before a day, or all. */
  private jointMoves(horizon: Horizon, rows: readonly number[], before: Day | null = null): JointMoves {
    const make = () => new JointMoves({ ground: this.ground, swing: this.swing(horizon), rows, before });
    // One row by itself has nothing in common with others, and is not kept in their place.
    return rows.length < 2
      ? make()
      : remember(this.joint, `${keyOf(horizon)}/${before ?? ''}/${rows.join()}`, make);
  }

  /** Rows with all that they are held against. */
  private held(
    asked: ComparisonRequest,
    rows: readonly number[],
    swing = this.swing(asked.horizon),
  ): HeldRows {
    const { day, horizon } = asked;
    return { ground: this.ground, swing, on: this.controlOn(asked), day, horizon, rows };
  }

  private rowEffects(
    asked: ComparisonRequest,
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
   * The first look, at most `looks` days after settling, at which the rows had plainly moved, if
   * they still move the same way. Null if there was none.
   */
  early({ ids, day, horizon, control }: ComparisonRequest, looks: number): EarlyCall | null {
    const rows = this.rowsOf(ids);
    const last = Math.min(looks, horizon.days - 1);
    if (rows.length === 0 || last < FIRST_LOOK) return null;
    const swing = this.swing(horizon);
    const boundary = this.boundary(horizon);
    const moves = this.jointMoves(horizon, rows);
    const at = (look: number) => {
      const asked: ComparisonRequest = {
        ids,
        day,
        horizon: { ...horizon, days: look },
        ...(control ? { control } : {}),
      };
      const estimates = rowEstimates(this.held(asked, rows, swing), VERDICT_MEASURES);
      return maxStatistic((measure) => {
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

  /** Groups of rows that move together, as known on a day; row ids by group number. */
  groupsAt(day: Day): { readonly learned: boolean; readonly groups: readonly (readonly number[])[] } {
    const { learned, groups } = this.ground.groupsAt(day);
    const ids: number[][] = Array.from({ length: groups.count }, () => []);
    for (let row = 0; row < this.history.rows; row++) ids[groups.of[row]!]?.push(this.history.idOf(row));
    return { learned, groups: ids };
  }

  /**
   * The counterfactual path: for each shown day and metric, the log ratio of the control to its
   * level in the before span, averaged over the week around the day (null if unknown). Null if none
   * of the rows has figures.
   */
  path(
    asked: ComparisonRequest,
    before: Span,
    shown: Span,
  ): Readonly<Record<Metric, readonly (number | null)[]>> | null {
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
   * Smallest detectable effect of these rows over each number of days, at 80% power and the level
   * of the weeks before `day`. Empty if they have no figures.
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
   * Variance that the net effect of each row would have over a horizon from `day` on, without the
   * part of the control (see `varianceOf`). NaN for rows with too short a past, or that don’t
   * exist.
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

  /**
   * Fits what readings of a horizon need, and early looks with `looks`, so that the first one
   * needn’t wait.
   */
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

  /**
   * Share of each row in the control: 1 for unchanged control rows, or as chosen; duplicates count
   * once.
   */
  private shareOf({ day, horizon, control }: ComparisonRequest): Float64Array {
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

  /**
   * The control; cached by day unless rows were chosen. Rows of the comparison are left out of it.
   */
  private controlOn(asked: ComparisonRequest): ControlDay {
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

  private controlSeen(asked: ComparisonRequest, { rows, swing, on }: HeldRows, own: number): ControlSeen {
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

/** Half-width of the window that a day of the path is averaged over, which removes the weekday. */
const HALF_WEEK = 3;

const keyOf = ({ days, settlingDays }: Horizon) => `${days}/${settlingDays}`;

function afterSpan({ day, horizon }: ComparisonRequest): Span {
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
