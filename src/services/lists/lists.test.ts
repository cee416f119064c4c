import fc from 'fast-check';
import { addDays, isoDay } from '../../core/calendar/day';
import type { Span } from '../../core/calendar/span';
import { pagePath } from '../../core/address/address';
import { columnsOf, type ListSubject } from '../../core/lists/columns';
import type { ListLine } from '../../core/lists/line';
import { listQuerySchema } from '../../core/lists/wish';
import type { Site } from '../../core/model/site';
import { day, TempStore } from '../../../tests/support/tempDb';
import { Engines } from '../site/engines';
import { Findings } from '../pages/findings';
import { sheetLines } from './querySheet';
import { SiteContext } from '../site/siteContext';
import { Lists } from './lists';
import type { ListAnswer } from './listRequest';
import { listRequest } from './fromQuery';

const FIRST = day('2026-08-01');
const DAYS = 70;
const LAST = addDays(FIRST, DAYS - 1);
const PAGES = ['/guides/swarms/', '/guides/honey/', '/shop/hives/', '/shop/smokers/', '/about/'];
const QUERIES = [
  'catch a swarm',
  'honey moisture',
  'hive sizes',
  'bee smoker',
  'swarm signs',
  'quillow bees',
];

/** One row by page, query and day. */
type Fact = {
  page: string;
  query: string;
  day: number;
  clicks: number;
  impressions: number;
  position: number;
};

/** Rows that follow a rule of their own; a third of all pairs were never seen, and many days are missing. */
const FACTS: Fact[] = PAGES.flatMap((page, p) =>
  QUERIES.flatMap((query, q) =>
    Array.from({ length: DAYS }, (_, i) => ({ i, mixed: (p * 31 + q * 17 + i * 7) % 23 })).flatMap(
      ({ i, mixed }): Fact[] =>
        (p + q) % 3 === 0 || mixed < 5
          ? []
          : [
              {
                ...{ page, query, day: FIRST + i, clicks: mixed % 4, impressions: 10 + mixed * (q + 1) },
                position: 1 + ((p + 2 * q + (i % 5)) % 14),
              },
            ],
    ),
  ),
);

let store: TempStore;
let site: Site;
let engines: Engines;
let lists: Lists;
beforeAll(async () => {
  store = new TempStore();
  site = await store.site();
  const lines = FACTS.map(
    (one) =>
      `${isoDay(one.day as never)},${one.page},${one.query},${one.clicks},${one.impressions},${one.position}`,
  );
  await store.import(site, ['date,page,query,clicks,impressions,position', ...lines].join('\n'));
  engines = new Engines(store.db);
  lists = new Lists(engines, new Findings());
});
afterAll(() => store.close());

const context = () => new SiteContext(store.db, site);

function list(subject: ListSubject, query: Record<string, unknown> = {}): ListAnswer {
  const wish = listRequest(context(), subject, listQuerySchema.parse(query));
  if (!wish || typeof wish === 'string') throw new Error(`No list: ${wish}`);
  return lists.list(context(), wish)!;
}

const nameOf = (line: ListLine) =>
  [line.page && pagePath(line.page.address), line.query?.text].filter(Boolean).join(' for ');

/** What lines of pairs or queries should say of a span, added up row by row. */
function added(facts: readonly Fact[], span: Span) {
  const within = facts.filter((one) => one.day >= span.firstDay && one.day <= span.lastDay);
  const sum = (of: (one: Fact) => number) => within.reduce((total, one) => total + of(one), 0);
  const [clicks, impressions] = [sum((one) => one.clicks), sum((one) => one.impressions)];
  return {
    ...{ clicks, impressions, ctr: impressions > 0 ? clicks / impressions : null },
    position: impressions > 0 ? sum((one) => one.position * one.impressions) / impressions : null,
  };
}

const SUBJECTS: [ListSubject, (one: Fact) => string][] = [
  ['queries', (one) => one.query],
  ['pairs', (one) => `${one.page} for ${one.query}`],
];

describe.each(SUBJECTS)('%s', (subject, keyOf) => {
  test('say what their rows add up to, over any days', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: DAYS / 2 }), fc.integer({ min: 0, max: 20 }), (days, back) => {
        const lastDay = addDays(LAST, -back);
        const now = { firstDay: addDays(lastDay, 1 - days), lastDay };
        const was = { firstDay: addDays(now.firstDay, -days), lastDay: addDays(now.firstDay, -1) };
        const answer = list(subject, {
          ...{ from: isoDay(now.firstDay), to: isoDay(lastDay), limit: 1000 },
          against: `${isoDay(was.firstDay)}..${isoDay(was.lastDay)}`,
        });
        const facts = new Map<string, Fact[]>();
        for (const one of FACTS) facts.set(keyOf(one), [...(facts.get(keyOf(one)) ?? []), one]);
        for (const line of answer.lines) {
          const own = facts.get(nameOf(line))!;
          const [after, before] = [added(own, now), added(own, was)];
          expect([line.metrics.clicks.after, line.metrics.impressions.after]).toEqual([
            after.clicks,
            after.impressions,
          ]);
          expect(line.metrics.clicks.difference).toBe(after.clicks - before.clicks);
          if (after.ctr === null) expect(line.metrics.ctr.after).toBeNull();
          else expect(line.metrics.ctr.after).toBeCloseTo(after.ctr, 9);
          if (after.position === null) expect(line.metrics.position.after).toBeNull();
          else expect(line.metrics.position.after).toBeCloseTo(after.position, 2);
        }
        const all = added(FACTS, now);
        expect(answer.sums.clicks.after).toBe(all.clicks);
        expect(answer.sums.impressions.after).toBe(all.impressions);
      }),
      { numRuns: 25 },
    );
  });

  test('are put in order by any column, those without a value last, and come in parts as a whole', () => {
    for (const column of columnsOf(subject)) {
      const whole = list(subject, { sort: `-${column}`, limit: 1000 }).lines.map(nameOf);
      const parts = [];
      for (let cursor = 0; cursor < whole.length; cursor += 4)
        parts.push(...list(subject, { sort: `-${column}`, limit: 4, cursor: `${cursor}` }).lines.map(nameOf));
      expect([column, parts]).toEqual([column, whole]);
      const rising = list(subject, { sort: column, limit: 1000 }).lines.map(nameOf);
      expect([column, [...rising].sort()]).toEqual([column, [...whole].sort()]);
    }
    const clicks = list(subject, { sort: '-clicks', limit: 1000 }).lines.map(
      ({ metrics }) => metrics.clicks.after!,
    );
    expect(clicks).toEqual([...clicks].sort((a, b) => b - a));
  });

  test('are narrowed by words and by ranges, and the sums are those of what was found', () => {
    const all = list(subject, { limit: 1000 });
    const narrow = (query: Record<string, unknown>) => list(subject, { ...query, limit: 1000 });
    const swarms = narrow({ q: 'swarm' });
    expect(swarms.lines.every((line) => nameOf(line).includes('swarm'))).toBe(true);
    const others = narrow({ without: 'swarm' });
    expect(swarms.total + others.total).toBe(all.total);
    expect(swarms.sums.clicks.after! + others.sums.clicks.after!).toBe(all.sums.clicks.after);
    expect(swarms.all).toBe(all.total);
    const few = narrow({ 'clicks.min': 5, 'clicks.max': 20 });
    expect(few.lines.map(nameOf).sort()).toEqual(
      all.lines
        .filter(({ metrics: { clicks } }) => clicks.after! >= 5 && clicks.after! <= 20)
        .map(nameOf)
        .sort(),
    );
    expect(narrow({ q: 'nobody asks this' })).toMatchObject({ lines: [], total: 0, all: all.total });
  });
});

test('a query knows on how many pages it was shown, a page for how many queries', () => {
  const shown = (of: (one: Fact) => boolean, by: (one: Fact) => string) =>
    new Set(FACTS.filter((one) => of(one) && one.day > LAST - 28).map(by)).size;
  for (const { query, further } of list('queries', { limit: 1000 }).lines)
    expect(further.pages).toBe(
      shown(
        (one) => one.query === query!.text,
        (one) => one.page,
      ),
    );
  for (const { page, further } of list('pages', { limit: 1000 }).lines)
    expect(further.queries).toBe(
      shown(
        (one) => one.page === pagePath(page!.address),
        (one) => one.query,
      ),
    );
});

test('a sheet has the queries of its pages, page by page, the most seen first', () => {
  const pages = list('pages', { limit: 1000 }).lines.map(({ page }) => page!);
  const chosen = [pages[1]!, pages[0]!];
  const spans = {
    now: { firstDay: addDays(LAST, -27), lastDay: LAST },
    was: { firstDay: addDays(LAST, -55), lastDay: addDays(LAST, -28) },
  };
  const lines = sheetLines(
    context(),
    { engines, lists },
    chosen.map(({ id }) => id),
    spans,
  )!;
  expect([...new Set(lines.map(({ page }) => page))]).toEqual(chosen.map(({ address }) => address));
  for (const { address } of chosen) {
    const own = lines.filter(({ page }) => page === address);
    const seen = own.map(({ impressions }) => impressions);
    expect(seen).toEqual([...seen].sort((a, b) => b - a));
    for (const line of own) {
      const facts = FACTS.filter((one) => one.page === pagePath(address) && one.query === line.query);
      expect([line.clicks, line.impressions]).toEqual([
        added(facts, spans.now).clicks,
        added(facts, spans.now).impressions,
      ]);
      // No page was fetched, so nothing is known of what it says.
      expect(line.said).toBeNull();
    }
  }
});

test('days that make no sense are refused in a sentence', () => {
  const refused = (query: Record<string, unknown>) =>
    listRequest(context(), 'pages', listQuerySchema.parse(query));
  expect(refused({ from: '2026-09-02', to: '2026-09-01' })).toMatch(/must not come after the last/);
  expect(refused({ from: '2024-01-01', to: '2026-09-01' })).toMatch(/at most 550 days; these are 975/);
  expect(refused({ against: '2026-09-20..2026-10-20' })).toMatch(/must not overlap the days shown/);
});
