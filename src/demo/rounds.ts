import { randomLcg, randomPoisson } from 'd3-random';
import { addDays, isoDay, type Day } from '../core/calendar/day';
import type { Frozen, Half, RoundPage } from '../core/model/round';
import type { Site } from '../core/model/site';
import { drawnHalves } from '../core/rounds/draw';
import { decideRound, recordMade, recordPageStep } from '../services/rounds/recordWork';
import { listPages } from '../store/addresses/pages';
import type { Db } from '../store/database';
import { addRound, type RoundToStore } from '../store/rounds/rounds';
import { SITE } from './pages';
import type { SimulatedPageRow, SimulatedQueryRow } from './simulate';
import { titleOfPage } from './world';

/*
 * The rounds of the made-up site, in days before the last day of its figures. `effect` is what the new titles really did, and is
 * never shown to the application.
 */

type DemoRound = {
  readonly name: string;
  readonly person: string;
  /** When it began, and when its halves were made. */
  readonly ago: number;
  readonly first: number;
  readonly second: number | null;
  readonly seed: number;
  /** Like pages, two by two. */
  readonly pairs: readonly (readonly [string, string])[];
  readonly expected: number;
  /** Clicks of the changed pages are multiplied by one more than this. */
  readonly effect: number;
  readonly reason: string | null;
  /** What new titles end with, page after page. */
  readonly endings: readonly string[];
};

export const ROUNDS: readonly DemoRound[] = [
  {
    name: 'Summer titles: the answer in front',
    ...{ person: 'IK', ago: 152, first: 150, second: 110, seed: 4127, expected: 0.1, effect: 0.2 },
    pairs: [
      ['/guides/stings-and-safety/', '/guides/hive-placement/'],
      ['/guides/splitting-a-colony/', '/guides/spring-build-up/'],
      ['/guides/frame-sizes/', '/guides/first-inspection/'],
      ['/guides/catching-a-swarm/', '/courses/'],
      ['/shop/flat-pack-hives/', '/shop/extractors/'],
      ['/shop/feeders/', '/shop/candle-moulds/'],
      ['/shop/wax-melters/', '/shop/labels/'],
      ['/shop/frames/', '/shop/gloves/'],
      ['/guides/nosema/', '/shop/suits-and-veils/'],
    ],
    reason: 'As good as certain, and nobody wrote in to complain.',
    endings: [': the answer first', ', step by step', ' (with a table)', ': what to do, and when'],
  },
  {
    name: 'Autumn titles: the season out',
    ...{ person: 'RT', ago: 26, first: 24, second: null, seed: 214, expected: 0.15, effect: 0.14 },
    pairs: [
      ['/guides/varroa-counts/', '/guides/mead-basics/'],
      ['/guides/honey-extraction/', '/guides/wax-rendering/'],
      ['/guides/candle-making/', '/shop/honey-jars/'],
      ['/guides/autumn-checklist/', '/guides/wasps/'],
      ['/guides/top-bar-hives/', '/guides/honey-moisture/'],
      ['/guides/robbing/', '/guides/laying-workers/'],
      ['/shop/smokers/', '/shop/fondant/'],
    ],
    reason: null,
    endings: [', all year round', ': what beekeepers ask', ' made easy'],
  },
];

const FROZEN_DAYS = 28;
/** Days until a new title works. */
const LAG = 2;

const halvesOf = ({ pairs, seed }: DemoRound) =>
  drawnHalves(
    pairs.map((_, i) => [2 * i, 2 * i + 1]),
    seed,
  );
const pathsOf = (round: DemoRound, half: Half) =>
  halvesOf(round)[half].map((place) => round.pairs.flat()[place]!);

/** The figures of the made-up site with the clicks that the titles of its rounds brought besides. */
export function withRounds(
  rows: { readonly pageRows: readonly SimulatedPageRow[]; readonly queryRows: readonly SimulatedQueryRow[] },
  lastDay: Day,
): { pageRows: SimulatedPageRow[]; queryRows: SimulatedQueryRow[] } {
  const random = randomLcg(0.4127);
  const poisson = randomPoisson.source(random);
  const worksFrom = new Map<string, { from: Day; effect: number }[]>();
  for (const round of ROUNDS)
    for (const half of ['first', 'second'] as const) {
      const ago = round[half];
      if (ago === null) continue;
      for (const path of pathsOf(round, half))
        worksFrom.set(path, [
          ...(worksFrom.get(path) ?? []),
          { from: addDays(lastDay, LAG - ago), effect: round.effect },
        ]);
    }
  const effectOn = (path: string, day: Day) =>
    (worksFrom.get(path) ?? []).reduce(
      (all, { from, effect }) => (day >= from ? all * (1 + effect) : all),
      1,
    ) - 1;
  const more = (effect: number, clicks: number, room: number) =>
    effect > 0 && clicks > 0 ? Math.min(room, poisson(effect * clicks)()) : 0;
  const key = (row: { readonly day: Day; readonly path: string }) => `${row.day} ${row.path}`;
  const named = new Map<string, { clicks: number; more: number }>();
  const queryRows = rows.queryRows.map((row) => {
    const further = more(effectOn(row.path, row.day), row.clicks, row.impressions - row.clicks);
    const sum = named.get(key(row)) ?? { clicks: 0, more: 0 };
    named.set(key(row), { clicks: sum.clicks + row.clicks, more: sum.more + further });
    return further === 0 ? row : { ...row, clicks: row.clicks + further };
  });
  const totals = new Map<string, number>();
  for (const row of rows.pageRows) totals.set(key(row), (totals.get(key(row)) ?? 0) + row.clicks);
  /** What is still to be shared out among the devices of a page's day. */
  const left = new Map<string, number>();
  for (const [at, total] of totals) {
    const sum = named.get(at) ?? { clicks: 0, more: 0 };
    const [day, path] = at.split(' ') as [string, string];
    const rest = more(effectOn(path, Number(day) as Day), total - sum.clicks, Infinity);
    if (sum.more + rest > 0) left.set(at, sum.more + rest);
  }
  const pageRows = rows.pageRows.map((row) => {
    const wanted = left.get(key(row)) ?? 0;
    const further = Math.min(wanted, row.impressions - row.clicks);
    if (further <= 0) return row;
    left.set(key(row), wanted - further);
    return { ...row, clicks: row.clicks + further };
  });
  return { pageRows, queryRows };
}

/** Logs the rounds of the made-up site as its people did. */
export async function makeRounds(
  db: Db,
  site: Site,
  rows: { readonly pageRows: readonly SimulatedPageRow[]; readonly queryRows: readonly SimulatedQueryRow[] },
  lastDay: Day,
): Promise<void> {
  const pages = new Map(listPages(db, site.id).map((page) => [page.address, page]));
  for (const round of ROUNDS) {
    const day = addDays(lastDay, -round.ago);
    const first = new Set(pathsOf(round, 'first'));
    const id = await addRound(db, {
      ...{ siteId: site.id, name: round.name, kind: 'title-rewrite', day, draw: 'halves', seed: round.seed },
      ...{
        windowDays: site.windowDays,
        settlingDays: site.settlingDays,
        person: round.person,
        followsId: null,
      },
      expectation: { metric: 'appeal', direction: 'up', amount: round.expected, reviewDay: null },
      pages: round.pairs.flat().map((path, place): RoundPage => {
        const oldText = titleOfPage(path);
        return {
          ...{ page: pages.get(SITE.address + path)!, written: SITE.address + path, person: round.person },
          ...{ half: first.has(path) ? 'first' : 'second', block: Math.floor(place / 2), steps: {}, oldText },
          newText: oldText.split(' | ')[0]! + round.endings[place % round.endings.length]!,
          frozen: frozenAt(rows, path, day, oldText),
          opening: null,
        };
      }),
    } satisfies RoundToStore);
    const ids = (half: Half) => pathsOf(round, half).map((path) => pages.get(SITE.address + path)!.id);
    for (const half of ['first', 'second'] as const) {
      const ago = round[half];
      if (ago === null) continue;
      const made = addDays(lastDay, -ago);
      if (half === 'second' && round.reason !== null)
        await decideRound(db, id, {
          decision: 'go-on',
          reason: round.reason,
          day: isoDay(addDays(made, -1)),
        });
      await recordMade(db, site, id, { half, day: isoDay(made), pageIds: null });
      const step = (
        name: 'reindex-requested' | 'crawled' | 'seen-in-results',
        after: number,
        some: number[],
      ) => recordPageStep(db, id, { pageIds: some, step: name, day: isoDay(addDays(made, after)) });
      await step('reindex-requested', 0, ids(half));
      await step('crawled', 2, ids(half));
      await step(
        'seen-in-results',
        3,
        ids(half).slice(0, half === 'first' && round.second === null ? -1 : undefined),
      );
    }
  }
}

function frozenAt(
  rows: { readonly pageRows: readonly SimulatedPageRow[]; readonly queryRows: readonly SimulatedQueryRow[] },
  path: string,
  day: Day,
  title: string,
): Frozen {
  const span = { firstDay: addDays(day, -FROZEN_DAYS), lastDay: addDays(day, -1) };
  const within = (row: { readonly day: Day; readonly path: string }) =>
    row.path === path && row.day >= span.firstDay && row.day <= span.lastDay;
  const sum = { clicks: 0, impressions: 0, position: 0 };
  for (const row of rows.pageRows.filter(within)) {
    sum.clicks += row.clicks;
    sum.impressions += row.impressions;
    sum.position += row.position * row.impressions;
  }
  const byQuery = new Map<string, { clicks: number; impressions: number; position: number }>();
  for (const row of rows.queryRows.filter(within)) {
    const known = byQuery.get(row.query) ?? { clicks: 0, impressions: 0, position: 0 };
    known.clicks += row.clicks;
    known.impressions += row.impressions;
    known.position += row.position * row.impressions;
    byQuery.set(row.query, known);
  }
  return {
    ...span,
    ...{ clicks: sum.clicks, impressions: sum.impressions, appeal: null, title, description: null },
    position: sum.impressions > 0 ? sum.position / sum.impressions : null,
    queries: [...byQuery]
      .sort(([, a], [, b]) => b.impressions - a.impressions)
      .slice(0, 10)
      .map(([text, one]) => ({
        ...{ text, clicks: one.clicks, impressions: one.impressions },
        position: one.impressions > 0 ? one.position / one.impressions : null,
      })),
  };
}
