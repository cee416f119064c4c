import { addDays } from '../../core/calendar/day';
import type { PageRef } from '../../core/model/change';
import { pagesPerHalf, powerOf, smallestEffect } from '../../core/rounds/plan';
import type { Engines } from '../engines';
import type { SiteContext } from '../siteContext';
import { engineWith, roundCandidates } from './candidates';

/** What a plan is asked for. */
export type PlanWish = {
  readonly pages: readonly PageRef[];
  /** A further effect, as a share; null for none. */
  readonly effect: number | null;
  readonly windowDays: number | null;
};

/** Pages in each half that find an effect 80 times in a hundred, by measure; null where no number does. */
export type PagesNeeded = {
  readonly effect: number;
  readonly appeal: number | null;
  readonly clicks: number | null;
  /** How often these very pages would find it, by appeal and by clicks. */
  readonly power: { readonly appeal: number | null; readonly clicks: number | null };
};

/** What pages that are thought of for a round could show. */
export type RoundPlan = {
  /** How many can contribute. */
  readonly pages: number;
  readonly pagesPerHalf: readonly PagesNeeded[];
  /** The smallest rise that these pages would show, as a share; null where none. */
  readonly smallestEffect: { readonly appeal: number | null; readonly clicks: number | null };
  readonly days: number;
  /** The same over twice as many days. */
  readonly longer: {
    readonly days: number;
    readonly smallestEffect: { readonly appeal: number | null; readonly clicks: number | null };
  };
  readonly leftOut: readonly { readonly page: PageRef; readonly reason: string; readonly taken: boolean }[];
};

/** The effects that every plan is made for, as shares. */
const PLANNED_EFFECTS = [0.1, 0.15, 0.2];

/** What pages could show as a round, beginning after the newest day that may be read. */
export function planRound(context: SiteContext, engines: Engines, wish: PlanWish): RoundPlan {
  const { site, lastReadable } = context;
  const days = wish.windowDays ?? site.windowDays;
  const candidates = roundCandidates(context, engines, wish.pages);
  const good = candidates.filter(({ problem }) => problem === null).map(({ page }) => page.id);
  const engine = engineWith(
    context,
    engines,
    wish.pages.map(({ id }) => id),
  );
  const variances = (measure: 'appeal' | 'clicks', over: number): number[] =>
    engine && good.length > 0
      ? engine
          .foreseenVariances(measure, addDays(lastReadable!, 1), good, {
            days: over,
            settlingDays: site.settlingDays,
          })
          .filter((variance) => variance > 0)
      : [];
  const half = Math.floor(good.length / 2);
  const known = { appeal: variances('appeal', days), clicks: variances('clicks', days) };
  const smallest = (over: number) => ({
    appeal: finite(smallestEffect(half, over === days ? known.appeal : variances('appeal', over))),
    clicks: finite(smallestEffect(half, over === days ? known.clicks : variances('clicks', over))),
  });
  const effects = [...new Set([...PLANNED_EFFECTS, ...(wish.effect === null ? [] : [wish.effect])])];
  return {
    pages: good.length,
    pagesPerHalf: effects
      .sort((a, b) => a - b)
      .map((effect) => ({
        effect,
        appeal: finite(pagesPerHalf(effect, known.appeal)),
        clicks: finite(pagesPerHalf(effect, known.clicks)),
        power: {
          appeal: half > 0 && known.appeal.length > 0 ? powerOf(effect, half, known.appeal) : null,
          clicks: half > 0 && known.clicks.length > 0 ? powerOf(effect, half, known.clicks) : null,
        },
      })),
    smallestEffect: smallest(days),
    days,
    longer: { days: 2 * days, smallestEffect: smallest(2 * days) },
    leftOut: candidates.flatMap(({ page, problem, taken }) =>
      problem === null ? [] : [{ page, reason: problem, taken }],
    ),
  };
}

const finite = (value: number): number | null => (Number.isFinite(value) ? value : null);
