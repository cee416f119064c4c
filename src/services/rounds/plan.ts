import { addDays, type Day } from '../../core/calendar/day';
import type { EffectEngine } from '../../core/effect/engine';
import type { Horizon } from '../../core/effect/kriging';
import type { PageRef } from '../../core/model/change';
import { pagesPerHalf, powerOf, smallestEffect } from '../../core/rounds/plan';
import type { Engines } from '../site/engines';
import type { SiteContext } from '../site/siteContext';
import { engineWith, roundCandidates } from './candidates';

/** What a plan is asked for. */
export type PlanQuery = {
  readonly pages: readonly PageRef[];
  /** A further effect, as a share; null for none. */
  readonly effect: number | null;
  readonly windowDays: number | null;
};

/** Pages per half for 80% power, by measure; null if no number suffices. */
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
export function planRound(context: SiteContext, engines: Engines, wish: PlanQuery): RoundPlan {
  const { site, lastReadable } = context;
  const days = wish.windowDays ?? site.windowDays;
  const candidates = roundCandidates(context, engines, wish.pages);
  const good = candidates.filter(({ problem }) => problem === null).map(({ page }) => page.id);
  const engine = engineWith(
    context,
    engines,
    wish.pages.map(({ id }) => id),
  );
  const foreseenOver = (over: number): Foreseen =>
    engine && good.length > 0
      ? foreseen(engine, good, lastReadable!, { days: over, settlingDays: site.settlingDays })
      : { appeal: [[], null], clicks: [[], null] };
  const half = Math.floor(good.length / 2);
  const known = foreseenOver(days);
  const smallest = ({ appeal, clicks }: Foreseen) => ({
    appeal: finite(smallestEffect(half, ...appeal)),
    clicks: finite(smallestEffect(half, ...clicks)),
  });
  const effects = [...new Set([...PLANNED_EFFECTS, ...(wish.effect === null ? [] : [wish.effect])])];
  return {
    pages: good.length,
    pagesPerHalf: effects
      .sort((a, b) => a - b)
      .map((effect) => ({
        effect,
        appeal: finite(pagesPerHalf(effect, ...known.appeal)),
        clicks: finite(pagesPerHalf(effect, ...known.clicks)),
        power: {
          appeal: half > 0 && known.appeal[0].length > 0 ? powerOf(effect, half, ...known.appeal) : null,
          clicks: half > 0 && known.clicks[0].length > 0 ? powerOf(effect, half, ...known.clicks) : null,
        },
      })),
    smallestEffect: smallest(known),
    days,
    longer: { days: 2 * days, smallestEffect: smallest(foreseenOver(2 * days)) },
    leftOut: candidates.flatMap(({ page, problem, taken }) =>
      problem === null ? [] : [{ page, reason: problem, taken }],
    ),
  };
}

/**
 * Variances of the pages’ net moves in a coming experiment, and the variance of the error that
 * unchanged pages share with them; null if there are none.
 */
type Foreseen = Readonly<Record<'appeal' | 'clicks', readonly [variances: number[], common: number | null]>>;

/** What is foreseen of pages over a horizon after the newest day that may be read. */
function foreseen(
  engine: EffectEngine,
  ids: readonly number[],
  lastReadable: Day,
  horizon: Horizon,
): Foreseen {
  // The last spell that is over tells what the yardstick brings in.
  const day = addDays(lastReadable, 1 - horizon.settlingDays - horizon.days);
  const asked = { ids, day, horizon };
  const measures = ['appeal', 'clicks'] as const;
  const missed = engine.commonVariances(asked, engine.look(asked, horizon.days, measures), measures);
  const of = (measure: 'appeal' | 'clicks') => {
    const variances = engine.foreseenVariances(measure, addDays(lastReadable, 1), ids, horizon);
    return [variances.filter((variance) => variance > 0), missed[measure]] as const;
  };
  return { appeal: of('appeal'), clicks: of('clicks') };
}

const finite = (value: number): number | null => (Number.isFinite(value) ? value : null);
