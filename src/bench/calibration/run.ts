import { asDay } from '../../core/calendar/day';
import { History } from '../../core/history/history';
import { METRICS, type Metric } from '../../core/model/change';
import { effectSpans, rowLogRatios } from '../../core/effect/logRatios';
import { EffectEngine } from '../../core/effect/engine';
import { Z90 } from '../../core/statistics/normal';
import { simulateSite, type SimulatedChange, type SimulatedSeries, type World } from './simulate';

/** An estimate on the log scale with its 90% interval. */
export type Estimate = { readonly net: number; readonly low: number; readonly high: number };

/** One simulated change read on one metric: the truth, what the program says, and what the naive comparison says. */
export type Outcome = Pick<SimulatedChange, 'picked' | 'kind'> & {
  readonly metric: Metric;
  readonly truth: number;
  readonly ours: Estimate;
  readonly naive: Estimate;
};

/** What is read: pages with their groups, every day with figures. */
export type ReadSite = {
  readonly history: History;
  readonly groups: { readonly of: readonly number[]; readonly count: number };
};

/** A change to read: on which page and day, and what is known of it. */
type Read = Pick<SimulatedChange, 'page' | 'day' | 'picked' | 'kind' | 'truth'>;

type Lengths = Pick<World, 'windowDays' | 'settlingDays'>;

/** Pages with figures on so many days, the first of them day 0, as the program has them. */
export function siteOf(
  pages: readonly (SimulatedSeries & { readonly group: number })[],
  days: number,
): ReadSite {
  const first = asDay(0);
  const history = new History(
    first,
    days,
    pages.map((page, id) => ({ id, firstDay: first, ...page })),
    Array.from({ length: days }, (_, i) => asDay(i)),
  );
  const of = pages.map((page) => page.group);
  return { history, groups: { of, count: Math.max(...of) + 1 } };
}

/**
 * Simulates a site, reads every change on it as the program does, and beside it as the naive comparison would.
 */
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
  changes: readonly Read[],
  lengths: Lengths,
): Outcome[] {
  const { windowDays, settlingDays } = lengths;
  const touches = changes.map(({ day, page }) => ({ day, pages: [{ id: page }] }));
  const reader = new EffectEngine(history, groups, touches, asDay(history.days - 1));
  return changes.flatMap(({ day, page, picked, kind, truth }) => {
    const read = reader.read(asDay(day), [page], windowDays, settlingDays);
    const moves = rowLogRatios(history, effectSpans(asDay(day), windowDays, settlingDays), [page]);
    return METRICS.flatMap((metric): Outcome[] => {
      const ours = read?.effects[metric];
      if (!ours) return [];
      const { move, noiseAfter } = moves[metric];
      const half = Z90 * Math.sqrt(textbookNoise(metric, history, page, day, windowDays) + noiseAfter[0]!);
      const net = move[0]!;
      return [
        {
          ...{ metric, picked, kind, truth: truth[metric], ours },
          naive: { net, low: net - half, high: net + half },
        },
      ];
    });
  });
}

/** Counting noise of the before span by its own counts, as a textbook has it. */
function textbookNoise(
  metric: Metric,
  history: History,
  page: number,
  day: number,
  windowDays: number,
): number {
  const before = { firstDay: asDay(day - windowDays), lastDay: asDay(day - 1) };
  const { clicks, impressions } = history.totals(page, before);
  if (metric === 'clicks') return 1 / (clicks + 0.5);
  if (metric === 'ctr') return Math.max(0, 1 / (clicks + 0.5) - 1 / (impressions + 0.5));
  return (metric === 'position' ? 0.4 : 1) / (impressions + 0.5);
}
