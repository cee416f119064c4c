import { asDay } from '../../core/calendar/day';
import { EffectEngine } from '../../core/effect/engine';
import type { LogEffect } from '../../core/effect/effect';
import { movedMeasures, type MovedMeasures } from '../../core/effect/movedMeasures';
import type { History } from '../../core/history/history';
import type { Measure } from '../../core/measures/registry';
import { Z90 } from '../../core/statistics/normal';
import {
  simulateSite,
  SIMULATED_MEASURES,
  type SimulatedChange,
  type SimulatedMeasure,
  type World,
} from './simulate';
import { siteOf, type ReadSite } from './site';

/** One measure of a change: the truth, what the program says, and what the naive comparison says, on the log scale. */
export type Estimated = {
  readonly truth: number;
  readonly ours: LogEffect;
  readonly naive: LogEffect;
};

/** One change read. */
export type Outcome = Pick<SimulatedChange, 'picked' | 'kind'> & {
  readonly measures: Readonly<Partial<Record<Measure, Estimated>>>;
  /** The fewer of the clicks in the two spans. */
  readonly fewest: number;
  /** Which way the verdict by what moved says it went: 1, -1, or 0 where it says nothing. */
  readonly verdict: number;
  /** The same of the daily looks before the days were over, and after how many days. */
  readonly early: { readonly way: number; readonly look: number } | null;
};

/** A change to read: on which page and day, and what is known of it. */
export type ToRead = Pick<SimulatedChange, 'page' | 'day' | 'picked' | 'kind' | 'truth'>;

type Lengths = Pick<World, 'windowDays' | 'settlingDays'>;

/** Simulates a site, reads every change on it as the program does, and beside it as the naive comparison would. */
export function runSeed(world: World): Outcome[] {
  const { pages, changes } = simulateSite(world);
  return readBeside(siteOf(pages, world.days), changes, world);
}

/**
 * Reads changes as the program does, and beside it as the naive comparison would: the log ratio after / before with a textbook 90%
 * interval from counting alone.
 */
export function readBeside(
  { history, groups }: ReadSite,
  changes: readonly ToRead[],
  lengths: Lengths,
): Outcome[] {
  const { windowDays, settlingDays } = lengths;
  const touches = changes.map(({ day, page }) => ({ day, pages: [{ id: page }] }));
  const engine = new EffectEngine(history, groups, touches, asDay(history.days - 1));
  return changes.flatMap(({ day, page, picked, kind, truth }): Outcome[] => {
    const asked = { ids: [page], day: asDay(day), horizon: { days: windowDays, settlingDays } };
    const read = engine.compare(asked);
    if (!read) return [];
    const early = engine.early(asked, windowDays);
    const measures: Partial<Record<Measure, Estimated>> = {};
    const naive = naiveEffects(history, page, day, lengths);
    for (const measure of SIMULATED_MEASURES) {
      const ours = read.effects[measure];
      if (ours) measures[measure] = { truth: truth[measure], ours, naive: naive[measure] };
    }
    return [
      {
        ...{ picked, kind, measures },
        fewest: Math.min(...sides(history, history.sums.clicks, page, day, lengths)),
        verdict: way(movedMeasures(read.effects, read.cut, 'clicks')),
        early: early && { way: early.up ? 1 : -1, look: early.look },
      },
    ];
  });
}

function way({ mark, movedIn }: MovedMeasures): number {
  return movedIn === null ? 0 : mark === 'lifted' ? 1 : -1;
}

/** The sums of a column over the two spans. */
function sides(
  history: History,
  sums: Float64Array,
  page: number,
  day: number,
  { windowDays, settlingDays }: Lengths,
): [number, number] {
  const upTo = (to: number) => sums[history.offset(to) * history.rows + page]!;
  const after = day + settlingDays;
  return [upTo(day) - upTo(day - windowDays), upTo(after + windowDays) - upTo(after)];
}

/** Plain before/after comparisons with textbook intervals. */
function naiveEffects(
  history: History,
  page: number,
  day: number,
  lengths: Lengths,
): Record<SimulatedMeasure, LogEffect> {
  const { clicks, impressions, positionSum, expected } = history.sums;
  const of = (sums: Float64Array) => {
    const [before, after] = sides(history, sums, page, day, lengths);
    return { log: Math.log((after + 0.5) / (before + 0.5)), noise: 1 / (after + 0.5) + 1 / (before + 0.5) };
  };
  const [c, m] = [of(clicks), of(impressions)];
  const rank = { log: of(positionSum).log - m.log, noise: 0.4 * m.noise };
  const effect = ({ log, noise }: { log: number; noise: number }) => {
    const half = Z90 * Math.sqrt(noise);
    return { net: log, low: log - half, high: log + half };
  };
  return {
    clicks: effect(c),
    impressions: effect(m),
    ctr: effect({ log: c.log - m.log, noise: Math.max(0, c.noise - m.noise) }),
    position: effect(rank),
    rank: effect(rank),
    appeal: effect({ log: c.log - of(expected).log, noise: c.noise }),
    showings: effect({ log: of(expected).log, noise: m.noise }),
  };
}
