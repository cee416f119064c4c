import { randomLcg } from 'd3-random';
import { asDay } from '../../core/calendar/day';
import type { History } from '../../core/history/history';
import { likeBlocks } from '../../core/rounds/blocks';
import { drawnHalves } from '../../core/rounds/draw';
import { GROUPS, type SimulatedSite } from '../calibration/simulate';

type Page = SimulatedSite['pages'][number];

/** How pages are picked for a round: of like size, and of these those that dipped, that are chosen least, or that move together. */
export type Pick = 'by level' | 'after a dip' | 'chosen least' | 'of one group';

export const ROUND_PAGES = 20;
/** Clicks of a typical page in 28 days. */
const TYPICAL_CLICKS = 124;
const WINDOW_DAYS = 28;
const SIZE_DAYS = 56;

export const sumIn = (values: Float64Array, from: number, days: number) =>
  values.subarray(from, from + days).reduce((sum, value) => sum + value, 0);

/** The site before anything is done on it, from which pages are picked. */
export type FittedPanel = {
  readonly pages: readonly Page[];
  readonly history: History;
  readonly seed: number;
};

const levelOf = (page: Page, day: number) => sumIn(page.clicks, day - WINDOW_DAYS, WINDOW_DAYS);

/** The twenty pages for a round: those whose level is nearest to the typical one, or twenty of twice as many. */
function picked({ pages, history, seed }: FittedPanel, day: number, how: Pick): number[] {
  const apart = (id: number) => Math.abs(Math.log((levelOf(pages[id]!, day) + 1) / TYPICAL_CLICKS));
  const near = pages.map((_, id) => id).sort((a, b) => apart(a) - apart(b));
  if (how === 'of one group') return near.filter((id) => id % GROUPS === seed % GROUPS).slice(0, ROUND_PAGES);
  if (how === 'by level') return near.slice(0, ROUND_PAGES);
  const dip = (id: number) =>
    levelOf(pages[id]!, day) / WINDOW_DAYS / (sumIn(pages[id]!.clicks, day - 140, 112) / 112 + 0.01);
  const span = { firstDay: asDay(day - SIZE_DAYS), lastDay: asDay(day - 1) };
  const appeal = (id: number) =>
    history.totals(history.row(id)!, span).clicks / (history.expectedOf([id], span) ?? Infinity);
  const by = how === 'after a dip' ? dip : appeal;
  const some = near.slice(0, 2 * ROUND_PAGES).map((id) => ({ id, by: by(id) }));
  return some
    .sort((a, b) => a.by - b.by)
    .slice(0, ROUND_PAGES)
    .map(({ id }) => id);
}

/** A round as it was drawn. */
export type Drawn = {
  readonly day: number;
  readonly ids: readonly number[];
  readonly first: ReadonlySet<number>;
  readonly blockOf: ReadonlyMap<number, number>;
  readonly seed: number;
  /** Clicks of each page in the 28 days before. */
  readonly levels: readonly number[];
};

/** Picks pages for a round that begins on a day, and draws its halves. */
export function drawnRound(ground: FittedPanel, day: number, how: Pick): Drawn {
  const { pages } = ground;
  const seed = ground.seed * 31 + day;
  const ids = picked(ground, day, how);
  const size = (id: number) => sumIn(pages[id]!.clicks, day - SIZE_DAYS, SIZE_DAYS);
  const blocks = likeBlocks(
    ids.map((pageId) => ({
      ...{ pageId, clicks: size(pageId), group: pages[pageId]!.path },
      dip: Math.log((sumIn(pages[pageId]!.clicks, day - 14, 14) * 4 + 1) / (size(pageId) + 1)),
    })),
  );
  return {
    ...{ day, ids, seed },
    first: new Set(drawnHalves(blocks, seed).first),
    blockOf: new Map(blocks.flatMap((block, i) => block.map((id) => [id, i] as const))),
    levels: ids.map((id) => levelOf(pages[id]!, day)),
  };
}

/** The random numbers of a run on a site: what its titles bring. */
export const randomOf = (seed: number, effect: number) =>
  randomLcg(((seed * 7919 + Math.round(effect * 100)) % 65_521) / 65_521);
