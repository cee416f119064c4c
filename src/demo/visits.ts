import { randomBinomial, randomLcg, randomPoisson } from 'd3-random';
import type { Day } from '../core/calendar/day';
import type { SimulatedPageRow, SimulatedQueryRow } from './simulate';

/** Visits of a landing page from search on a day. */
export type VisitRow = {
  readonly day: Day;
  readonly path: string;
  readonly sessions: number;
  readonly engaged: number;
  readonly conversions: number;
  readonly revenue: number;
};

/** What one order comes to on average, and the share of visits that end in one. */
export const ORDER_WORTH = 38;
const [SHOP_RATE, GUIDE_RATE] = [0.03, 0.008];
/** Visited much and bought little: the jars are sold out again and again, and nobody says so. */
const BARELY_BOUGHT: Readonly<Record<string, number>> = {
  '/shop/honey-jars/': 0.003,
  '/shop/extractors/': 0.006,
};

/** What visitors did on the pages on which they landed, from the clicks of each page and day; the same seed gives the same. */
export function simulateVisits(pageRows: readonly SimulatedPageRow[], seed: number): VisitRow[] {
  const random = randomLcg(seed / 1000);
  const binomial = randomBinomial.source(random);
  const poisson = randomPoisson.source(random);
  const clicks = new Map<string, { day: Day; path: string; clicks: number }>();
  for (const { day, path, clicks: own } of pageRows) {
    const key = `${day} ${path}`;
    const known = clicks.get(key);
    if (known) known.clicks += own;
    else clicks.set(key, { day, path, clicks: own });
  }
  return [...clicks.values()].flatMap(({ day, path, clicks: own }) => {
    // Some leave before they are counted, and a few come by other searches.
    const sessions = binomial(own, 0.93)() + poisson(0.2)();
    if (sessions === 0) return [];
    const rate = BARELY_BOUGHT[path] ?? (path.startsWith('/shop/') ? SHOP_RATE : GUIDE_RATE);
    const conversions = binomial(sessions, rate)();
    const revenue = conversions * ORDER_WORTH * (0.7 + 0.6 * random());
    return [
      {
        ...{ day, path, sessions, conversions, engaged: binomial(sessions, 0.62)() },
        revenue: Math.round(revenue * 100) / 100,
      },
    ];
  });
}

/** Searches that two pages serve by turns: the page that was alone with it, and the one that came to share it. */
const SHARED = [
  { from: '/guides/foundation/', to: '/shop/foundation/', days: 9 },
  { from: '/guides/splitting-a-colony/', to: '/shop/nucleus-boxes/', days: 6 },
] as const;
/** Since so many days before the last. */
const SHARED_DAYS = 150;
/** What stays with the first page while the other leads. */
const LEFT = 0.12;

/** Has pages take turns at the search of the first that is seen most: rows by query and totals of both move alike. */
export function takeTurns(
  pageRows: readonly SimulatedPageRow[],
  queryRows: readonly SimulatedQueryRow[],
  lastDay: Day,
): { pageRows: SimulatedPageRow[]; queryRows: SimulatedQueryRow[] } {
  const [pages, queries] = [pageRows.map((row) => ({ ...row })), queryRows.map((row) => ({ ...row }))];
  for (const { from, to, days } of SHARED) {
    const query = mostSeen(queryRows, from);
    const turnsOn = (day: Day) => lastDay - day < SHARED_DAYS && Math.floor((lastDay - day) / days) % 2 === 1;
    for (const row of [...queries]) {
      if (row.path !== from || row.query !== query || !turnsOn(row.day)) continue;
      const kept = {
        clicks: Math.round(row.clicks * LEFT),
        impressions: Math.max(1, Math.round(row.impressions * LEFT)),
      };
      const moved = { clicks: row.clicks - kept.clicks, impressions: row.impressions - kept.impressions };
      if (moved.impressions <= 0) continue;
      const position = row.position + 0.8;
      queries.push({ ...row, ...moved, path: to, position });
      Object.assign(row, kept);
      move(pages, { ...row, ...moved, position }, from, -1);
      move(pages, { ...row, ...moved, position }, to, 1);
    }
  }
  return { pageRows: pages, queryRows: queries };
}

function mostSeen(rows: readonly SimulatedQueryRow[], path: string): string {
  const seen = new Map<string, number>();
  for (const row of rows)
    if (row.path === path) seen.set(row.query, (seen.get(row.query) ?? 0) + row.impressions);
  return [...seen].sort((a, b) => b[1] - a[1])[0]![0];
}

/** Takes showings and clicks from a page's totals of a day, or adds them, on the device that has most of them. */
function move(
  rows: SimulatedPageRow[],
  { day, clicks, impressions, position }: SimulatedQueryRow,
  path: string,
  sign: 1 | -1,
): void {
  const own = rows.filter((row) => row.day === day && row.path === path);
  const row = own.sort((a, b) => b.impressions - a.impressions)[0];
  if (!row) return;
  const taken = sign === 1 ? impressions : Math.min(impressions, row.impressions);
  const total = row.impressions + sign * taken;
  if (total > 0)
    row.position = Math.max(1, (row.position * row.impressions + sign * position * taken) / total);
  row.impressions = total;
  row.clicks = Math.min(total, Math.max(0, row.clicks + sign * clicks));
}
