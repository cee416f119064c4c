import { asDay, type Day } from '../../core/calendar/day';
import { simulatedIndex } from './simulated';

const day = (n: number) => asDay(20_000 + n);
const MADE = 100;

/** An index of pages whose title changed on a day, on which a reindex was asked for. */
function indexOn(today: number, busy: boolean, requested: number[] = [MADE]) {
  return simulatedIndex({
    today: day(today),
    firstDay: day(0),
    titleOn: (address, on: Day) => (address === '/none' ? null : on < day(MADE) ? 'Old' : 'New'),
    requestsOf: () => requested.map(day),
    busy: () => busy,
  });
}

const PAGES = Array.from({ length: 200 }, (_, i) => `/guides/${i}/`);

/** Days from the request to the crawl, of many pages. */
async function lags(busy: boolean): Promise<number[]> {
  const index = indexOn(160, busy);
  return Promise.all(PAGES.map(async (page) => (await index.crawledSince(page, day(MADE)))! - day(MADE)));
}

// A reindex request is served at once or within a day or two (common practice, no published source).
test('a request is served at once or within a day or two, later for quiet pages', async () => {
  const busy = await lags(true);
  expect(new Set(busy)).toEqual(new Set([0, 1, 2]));
  const quiet = await lags(false);
  expect(Math.min(...quiet)).toBeGreaterThanOrEqual(0);
  expect(quiet.filter((lag) => lag >= 3).length).toBeGreaterThan(PAGES.length * 0.8);
  expect(Math.max(...quiet)).toBeLessThanOrEqual(8);
});

test('without a request the crawl comes by itself, in its own time', async () => {
  const index = indexOn(200, true, []);
  const crawled = await Promise.all(PAGES.map((page) => index.crawledSince(page, day(MADE))));
  expect(crawled.every((on) => on !== null && on - day(MADE) <= 14)).toBe(true);
  expect(crawled.some((on) => on! - day(MADE) > 5)).toBe(true);
});

test('the results show the new title some days after the crawl, and until then the old one', async () => {
  for (const page of PAGES.slice(0, 50)) {
    const crawled = (await indexOn(160, true).crawledSince(page, day(MADE)))!;
    const shown = (await indexOn(160, true).shown(page))!;
    expect(shown.title).toBe('New');
    expect(shown.since! - crawled).toBeGreaterThanOrEqual(1);
    expect(shown.since! - crawled).toBeLessThanOrEqual(4);
    const before = await indexOn(shown.since! - 1 - day(0), true).shown(page);
    expect(before!.title).toBe('Old');
  }
});

test('what was never crawled is nowhere', async () => {
  expect(await indexOn(160, true).shown('/none')).toBeNull();
  expect(await indexOn(160, true).crawledSince('/none', day(0))).toBeNull();
  expect(await indexOn(MADE, true).crawledSince(PAGES[0]!, day(MADE + 1))).toBeNull();
});
