import { randomLcg, randomPoisson } from 'd3-random';
import { addDays, isoDay, type Day } from '@/core/calendar/day';
import type { Site } from '@/core/model/site';
import { answersFor } from '@/jobs/questions/answers';
import { callApi } from '../support/apiClient';
import { day, TempStore } from '../support/tempDb';

/*
 * A week of use on an invented shop of 87 pages in which the truth is known: a better title, a change that did nothing, wider
 * exposure only, a better position, an update that struck one part, a page that fell, two pages that take turns, and an experiment.
 * Everything is read as scripts read it, and compared with what was planted.
 */

const answers = () => {
  const shared = globalThis as { __tallyDb?: never; __answers?: ReturnType<typeof answersFor> };
  return (shared.__answers ??= answersFor(shared.__tallyDb!));
};
jest.mock('@/jobs/questions/ask', () => ({
  ask: async (name: string, asked: never) =>
    (answers() as unknown as Record<string, (asked: never) => unknown>)[name]!(asked),
  askScorebook: async ([siteId]: readonly number[], by: string) =>
    (answers() as unknown as Record<string, (asked: object) => unknown>)['scorebook']!({
      siteId,
      by,
      others: [],
    }),
  askReadings: async function* (siteId: number, wish: object) {
    const all = answers() as unknown as Record<string, (asked: object) => never>;
    const list = all['beginList']!({ siteId, wish });
    const { readings } = all['partOfList']!({ siteId, list, from: 0, to: 1000 }) as { readings: never };
    yield readings;
  },
}));

const LAST = day('2026-11-20');
const TODAY = addDays(LAST, 12);
const DAYS = 300;
const FIRST = addDays(LAST, 1 - DAYS);
/** The day on which the changes were made, and the update. */
const MADE = addDays(LAST, -45);
const UPDATE = addDays(LAST, -110);

type Query = { text: string; position: number; shown: number };
type Page = { path: string; queries: Query[] };

const BETTER_TITLE = '/guides/page-1/';
const NOTHING = '/guides/page-2/';
const WIDER = '/guides/page-3/';
const HIGHER = '/guides/page-4/';
const FALLEN = '/blog/page-5/';
const TURNS = ['/shop/page-1/', '/shop/page-2/'] as const;
const EXPERIMENT = Array.from({ length: 16 }, (_, i) => `/blog/page-${i + 8}/`);
const UNTOUCHED = '/blog/page-3/';

const PAGES: Page[] = (['guides', 'shop', 'blog'] as const).flatMap((part, p) =>
  Array.from({ length: 29 }, (_, n): Page => ({
    path: `/${part}/page-${n}/`,
    queries: Array.from({ length: 3 }, (_q, q) => ({
      text: `${part} topic ${n} ${['how', 'best', 'price'][q]}`,
      position: 2 + ((n + 2 * q + p) % 7),
      shown: 90 + 20 * ((n * 7 + q * 3) % 5),
    })),
  })),
);

const usualCtr = (position: number) => 0.34 / position;

/** What was planted: what a page's query shows and how often it is chosen on a day, beside what is usual. */
function planted(page: string, on: number, firstHalf: ReadonlySet<string>) {
  const after = on >= MADE;
  const shop = page.startsWith('/shop/');
  const update = on >= UPDATE ? (shop ? 0.66 : 0.94) : 1;
  return {
    shown: update,
    appeal: after && page === BETTER_TITLE ? 1.4 : after && firstHalf.has(page) ? 1.3 : 1,
    places: after && page === HIGHER ? -2 : 0,
    // In the last readable week only.
    fallen: page === FALLEN && on > LAST - 7 ? 0.5 : 1,
  };
}

/** Rows by page and query, and by page, with a little of every page in queries too rare to be named. */
function figures(firstHalf: ReadonlySet<string>): { pages: string; queries: string } {
  const next = randomLcg(0.29);
  const poisson = randomPoisson.source(next);
  const pages = ['date,page,clicks,impressions,position'];
  const queries = ['date,page,query,clicks,impressions,position'];
  for (let i = 0; i < DAYS; i++) {
    const on = FIRST + i;
    const week = [1, 1.1, 1.05, 1, 0.95, 0.8, 0.85][i % 7]!;
    for (const { path, queries: own } of PAGES) {
      const truth = planted(path, on, firstHalf);
      const turn = TURNS.indexOf(path as never);
      const rows = own.map(({ text, position, shown }) => ({
        ...{ text, shown: shown * truth.shown * truth.fallen },
        position: Math.max(1, position + truth.places),
      }));
      // Two pages swap a query every six days; the other is still shown, for a quarter.
      if (turn !== -1)
        rows.push({
          text: 'hive tool',
          shown: Math.floor(i / 6) % 2 === turn ? 120 : 40,
          position: 5 + turn,
        });
      // From the change on, one page is shown for more queries far down, and for nothing else.
      if (path === WIDER && on >= MADE)
        for (const q of [1, 2, 3, 4]) rows.push({ text: `wider ${q}`, shown: 150, position: 16 + (q % 3) });
      const sum = { clicks: 0, impressions: 0, position: 0 };
      for (const row of [...rows, { text: '', shown: 12, position: 9 }]) {
        const impressions = poisson(row.shown * week)();
        if (impressions === 0) continue;
        const clicks = Math.min(impressions, poisson(impressions * usualCtr(row.position) * truth.appeal)());
        sum.clicks += clicks;
        sum.impressions += impressions;
        sum.position += impressions * row.position;
        if (row.text !== '')
          queries.push(
            `${isoDay(on as Day)},${path},${row.text},${clicks},${impressions},${(row.position + 0.4 * (next() - 0.5)).toFixed(2)}`,
          );
      }
      pages.push(
        `${isoDay(on as Day)},${path},${sum.clicks},${sum.impressions},${(sum.position / sum.impressions).toFixed(2)}`,
      );
    }
  }
  return { pages: pages.join('\n'), queries: queries.join('\n') };
}

type Effect = { ratio: number; low: number; high: number } | null;
type ReadingJson = {
  verdict: string;
  movedIn: string | null;
  net: Record<'clicks' | 'appeal', Effect> & { rank: { placesGained: number; low: number; high: number } };
  metrics: { clicks: { before: number; after: number } };
  marks: Record<string, string | null>;
  sentence: string;
};

let store: TempStore;
let site: Site;
const ids: Record<string, number> = {};
let roundId: number;
let eventId: number;

const api = async <T>(method: string, path: string, body?: unknown): Promise<T> => {
  const answered = await callApi(method, path, body);
  expect([path, answered.status < 300 ? 'fine' : answered]).toEqual([path, 'fine']);
  return answered.body as T;
};
const reading = (page: string) => api<ReadingJson>('GET', `/changes/${ids[page]}/reading`);

beforeAll(async () => {
  store = new TempStore();
  (globalThis as { __tallyDb?: unknown }).__tallyDb = store.db;
  site = await store.site();
  // The experiment is drawn before it is made: from figures without any effect, on the day before.
  process.env.TALLY_TODAY = isoDay(addDays(MADE, -1));
  const before = figures(new Set());
  await store.import(site, before.pages, {}, '2030-01-01');
  const round = await api<{ id: number; first: string[] }>('POST', `/sites/${site.id}/rounds`, {
    ...{ name: 'Shorter titles', kind: 'title-rewrite', draw: 'halves', seed: 11, pages: EXPERIMENT },
  });
  roundId = round.id;
  const half = new Set(
    (await api<{ pages: { page: string; half: string }[] }>('GET', `/rounds/${roundId}`)).pages
      .filter((one) => one.half === 'first')
      .map(({ page }) => new URL(page).pathname),
  );
  process.env.TALLY_TODAY = isoDay(TODAY);
  const { pages, queries } = figures(half);
  await store.import(site, pages);
  await store.import(site, queries);
  (globalThis as { __answers?: unknown }).__answers = undefined;
  await api('POST', `/rounds/${roundId}/made`, { half: 'first', day: isoDay(MADE) });
  for (const [page, kind] of [
    [BETTER_TITLE, 'title-rewrite'],
    [NOTHING, 'title-rewrite'],
    [WIDER, 'body-copy'],
    [HIGHER, 'internal-links'],
  ] as const) {
    const expectation = { metric: 'clicks', direction: 'up', amount: 0.25 };
    const change = await api<{ id: number }>('POST', `/sites/${site.id}/changes`, {
      ...{ title: `Work on ${page}`, kind, day: isoDay(MADE), pages: [page], expectation },
    });
    ids[page] = change.id;
  }
  const event = await api<{ id: number }>('POST', `/sites/${site.id}/events`, {
    ...{ name: 'Clover update', kind: 'algorithm-update', firstDay: isoDay(UPDATE) },
  });
  eventId = event.id;
}, 300_000);

afterAll(() => {
  store.close();
  delete process.env.TALLY_TODAY;
  delete (globalThis as { __tallyDb?: unknown }).__tallyDb;
});

test('the better title is found, by how often it is chosen', async () => {
  const { verdict, movedIn, net } = await reading(BETTER_TITLE);
  expect([verdict, movedIn]).toEqual(['lifted', 'appeal']);
  expect(net.appeal!.low).toBeLessThan(1.4);
  expect(net.appeal!.high).toBeGreaterThan(1.4);
});

test('the change that did nothing is not called', async () => {
  const { verdict, net } = await reading(NOTHING);
  expect(['held', 'unclear']).toContain(verdict);
  expect([net.clicks!.low < 1, net.clicks!.high > 1]).toEqual([true, true]);
});

test('wider exposure alone is no better position', async () => {
  const { movedIn, net, marks } = await reading(WIDER);
  expect(movedIn).not.toBe('rank');
  expect(marks['rank']).not.toBe('lifted');
  expect(Math.abs(net.rank.placesGained)).toBeLessThan(0.15);
});

test('the better position is found, with how many places', async () => {
  const { verdict, net } = await reading(HIGHER);
  expect(verdict).toBe('lifted');
  expect(net.rank.low).toBeGreaterThan(1);
  expect(net.rank.high).toBeLessThan(3.5);
});

test('a step recorded now leaves finished readings as they are', async () => {
  const before = await reading(BETTER_TITLE);
  await api('POST', `/changes/${ids[BETTER_TITLE]}/steps`, { step: 'crawled', day: isoDay(TODAY) });
  const after = await reading(BETTER_TITLE);
  expect([after.verdict, after.net]).toEqual([before.verdict, before.net]);
});

test('lists, single readings and the scorebook say the same of a change, and losers have no plus sign', async () => {
  const { items } = await api<{ items: (ReadingJson & { changeId: number })[] }>(
    'GET',
    `/sites/${site.id}/readings`,
  );
  for (const page of [BETTER_TITLE, NOTHING, WIDER, HIGHER]) {
    const own = await reading(page);
    const listed = items.find(({ changeId }) => changeId === ids[page])!;
    expect([listed.verdict, listed.movedIn, listed.net, listed.marks]).toEqual([
      own.verdict,
      own.movedIn,
      own.net,
      own.marks,
    ]);
  }
  await api('GET', `/sites/${site.id}/scorebook`);
});

test('a planned change is told alike alone and in the list', async () => {
  const { id } = await api<{ id: number }>('POST', `/sites/${site.id}/changes`, {
    ...{ title: 'Planned', kind: 'headings', day: isoDay(addDays(TODAY, 20)), planned: true },
    pages: [UNTOUCHED],
  });
  const { items } = await api<{ items: (ReadingJson & { changeId: number })[] }>(
    'GET',
    `/sites/${site.id}/readings`,
  );
  const { sentence } = await api<ReadingJson>('GET', `/changes/${id}/reading`);
  expect(sentence).toMatch(/^Still to be made\. In 28 days this page could show/);
  expect(items.find(({ changeId }) => changeId === id)!.sentence).toBe(sentence);
  await api('DELETE', `/changes/${id}`);
});

test('the update shows as a fall of the site, and its part as the one that fell', async () => {
  const span = `from=${isoDay(addDays(UPDATE, 4))}&to=${isoDay(addDays(UPDATE, 31))}`;
  type Totals = { clicks: { now: number; then: number; difference: number } };
  const of = (path: string) =>
    api<Totals>('GET', `/sites/${site.id}/totals?${span}${path === '' ? '' : `&path=${path}`}`);
  const [whole, shop, guides] = [await of(''), await of('/shop/'), await of('/guides/')];
  const ratio = ({ clicks }: Totals) => clicks.now / clicks.then;
  expect(ratio(shop)).toBeGreaterThan(0.6);
  expect(ratio(shop)).toBeLessThan(0.75);
  expect(ratio(guides)).toBeGreaterThan(0.88);
  expect(ratio(whole)).toBeLessThan(0.92);
  expect(shop.clicks.difference).toBe(shop.clicks.now - shop.clicks.then);
  const across = (await answers().across({ siteId: site.id, eventId }))!.lines!;
  expect(across.site.clicks.ratio).toBeLessThan(0.95);
  expect(across.parts.find(({ name }) => name === '/shop/')!.mark).toBe('dropped');
  const { items } = await api<{ items: { day: string; ratio: number; near: { text: string }[] }[] }>(
    'GET',
    `/sites/${site.id}/shifts`,
  );
  const step = items.find(({ ratio: size }) => size < 1)!;
  expect(Math.abs(day(step.day) - UPDATE)).toBeLessThanOrEqual(4);
  expect(step.near.map(({ text }) => text)).toContain('Clover update');
});

test('two pages in turns are found, and pages side by side are not', async () => {
  const { items } = await api<{ items: { kind: string; query: string | null }[] }>(
    'GET',
    `/sites/${site.id}/openings?limit=500`,
  );
  expect(items.filter(({ kind }) => kind === 'shared').map(({ query }) => query)).toEqual(['hive tool']);
});

test('the page that fell is listed, and no page that moves as it always does', async () => {
  const lines = answers().desk({ siteId: site.id })!;
  const falls = lines.filter(({ kind, pageId }) => kind === 'fell-back' && pageId !== null);
  expect(falls.map(({ title }) => title)).toEqual([FALLEN]);
});

test('the experiment says what its half brought, as one that was drawn', async () => {
  const read = await api<{
    verdict: string;
    effects: { appeal: { ratio: number; low: number; high: number; p: number } };
    doubts: string[];
  }>('GET', `/rounds/${roundId}/reading`);
  expect(read.verdict).toBe('lifted');
  expect(read.effects.appeal.low).toBeLessThan(1.3);
  expect(read.effects.appeal.high).toBeGreaterThan(1.3);
  expect(read.effects.appeal.p).toBeLessThan(0.05);
  expect(JSON.stringify(read)).not.toContain('Not randomised');
});

test('what files do not divide by device is absent, not computed', async () => {
  type Totals = { clicks: { now: number | null } };
  const { clicks } = await api<Totals>('GET', `/sites/${site.id}/totals?device=mobile`);
  expect(clicks.now).toBeNull();
});

test('every list and every thing of the site is answered as it is described', async () => {
  const at = `/sites/${site.id}`;
  for (const path of [
    ...['/sites', `${at}`, `${at}/imports`, `${at}/changes`, `${at}/events`, `${at}/rounds`, `${at}/reports`],
    ...[
      `${at}/pages?limit=20`,
      `${at}/queries?limit=20`,
      `${at}/queries/pages?query=hive%20tool`,
      `${at}/groups`,
    ],
    ...[`${at}/shifts?page=${UNTOUCHED}`, `${at}/unlogged`, `${at}/feeds`, `${at}/result-pages`],
    ...[`/changes/${ids[NOTHING]}`, `/events/${eventId}`, `/rounds/${roundId}`],
    `${at}/comparison?pages=${UNTOUCHED}&before=${isoDay(addDays(LAST, -60))}..${isoDay(addDays(LAST, -33))}&after=${isoDay(addDays(LAST, -27))}..${isoDay(LAST)}`,
  ])
    await api('GET', path);
});
