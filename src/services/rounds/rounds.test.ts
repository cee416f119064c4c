import { randomLcg, randomPoisson } from 'd3-random';
import { aRound } from '../../../tests/support/round';
import { day, TempStore } from '../../../tests/support/tempDb';
import { addDays, isoDay } from '../../core/calendar/day';
import { newChangeSchema } from '../../core/model/change';
import { pagesOf } from '../../core/model/round';
import type { Site } from '../../core/model/site';
import { bookOf } from '../../core/scorebook/book';
import { addChange } from '../../store/ledger/changes';
import { findChange, listChanges } from '../../store/ledger/findChanges';
import { findRound } from '../../store/rounds/rounds';
import { Engines } from '../site/engines';
import { bookSource } from '../scorebook/source';
import { SiteContext } from '../site/siteContext';
import { pagesNamed } from './begin';
import { roundCandidates } from './candidates';
import { planRound } from './plan';
import { readRound } from './read';
import { decideRound, keepTexts, recordMade, recordPageStep, takeBackMade } from './recordWork';

const FIRST = day('2026-02-01');
const DAYS = 280;
const MADE = day('2026-07-01');
const AGAIN = day('2026-08-20');
const PATHS = Array.from({ length: 26 }, (_, i) => `/guides/${String.fromCharCode(97 + i)}/`);
const ROUND = PATHS.slice(0, 16);

/** Days of pages of some size; clicks are multiplied from a day on where that is wished. */
function csv(paths: readonly string[], factor: (path: string, day: number) => number): string {
  const lines = ['date,page,clicks,impressions,position'];
  for (const path of paths) {
    // Each page has random numbers of its own, so that it is the same by itself and among others.
    const poisson = randomPoisson.source(randomLcg(path.charCodeAt(8) / 200));
    for (let i = 0; i < DAYS; i++) {
      const impressions = poisson(120)();
      const clicks = poisson(6 * factor(path, FIRST + i))();
      lines.push(`${isoDay(addDays(FIRST, i))},${path},${Math.min(clicks, impressions)},${impressions},5`);
    }
  }
  return lines.join('\n');
}

let store: TempStore;
let site: Site;
beforeEach(async () => {
  store = new TempStore();
  site = await store.site();
  await store.import(
    site,
    csv(PATHS, () => 1),
  );
});
afterEach(() => store.close());

const context = () => new SiteContext(store.db, site);
const begin = (over: Readonly<Record<string, unknown>> = {}) =>
  aRound(store.db, site, ROUND, { draw: 'halves', seed: 7, ...over });
const round = (id: number) => findRound(store.db, id)!;
const read = (id: number) => readRound(context(), new Engines(store.db), round(id));
const paths = (id: number, half: 'first' | 'second') =>
  pagesOf(round(id), half).map(({ written }) => written);
const drawnOn = (id: number, on: number) =>
  store.db.$client.prepare('UPDATE round SET day = ? WHERE id = ?').run(on, id);
/** Records a half as made; the draw was on that day at the latest. */
const made = (id: number, half: 'first' | 'second', on: number) => {
  drawnOn(id, Math.min(on, round(id).day));
  return recordMade(store.db, site, id, { half, day: isoDay(on as never), pageIds: null });
};

test('a half that was made before the draw is read as not randomised, and says so', async () => {
  const id = await begin();
  await made(id, 'first', MADE);
  drawnOn(id, MADE + 1);
  const early = read(id).first!;
  expect(early.doubts.join(' ')).toMatch(
    /Not randomised: work was recorded on .*, before the halves were drawn on/,
  );
  drawnOn(id, MADE);
  const turn = read(id).first!;
  expect(turn.doubts.join(' ')).not.toMatch(/Not randomised/);
});

/** A round of which the first half was made, and in truth lifted by two fifths. */
async function lifted(): Promise<number> {
  const id = await begin();
  const first = paths(id, 'first');
  await store.import(
    site,
    csv(first, (_, at) => (at >= MADE + 2 ? 1.4 : 1)),
  );
  await made(id, 'first', MADE);
  return id;
}

test('like pages stand in blocks, the seed makes the draw again, and what is known is frozen', async () => {
  const id = await begin();
  const { pages, seed, draw } = round(id);
  expect({ seed, draw, pages: pages.length }).toEqual({ seed: 7, draw: 'halves', pages: 16 });
  const blocks = new Map<number, string[]>();
  for (const { block, half } of pages) blocks.set(block, [...(blocks.get(block) ?? []), half]);
  expect(blocks.size).toBe(2);
  for (const halves of blocks.values())
    expect(halves.filter((half) => half === 'first')).toHaveLength(halves.length / 2);
  expect(pages[0]!.frozen.clicks).toBeGreaterThan(100);
  expect(pages[0]!.frozen.position).toBeCloseTo(5, 9);
  const first = paths(id, 'first');
  // Deleted meanwhile, its pages are free, and the same seed draws the same halves.
  store.db.$client.prepare("UPDATE round SET deleted_at = 'now'").run();
  expect(paths(await begin(), 'first')).toEqual(first);
});

test('a page is in one round at a time, and one that nobody knows in none', async () => {
  await begin();
  await expect(aRound(store.db, site, PATHS.slice(15), { draw: 'halves' })).rejects.toThrow(
    'a page is in one round at a time',
  );
  await expect(aRound(store.db, site, ['/nowhere/'])).rejects.toMatchObject({ field: 'pages.0' });
  await expect(aRound(store.db, site, PATHS.slice(20, 23), { draw: 'halves' })).rejects.toThrow(
    'at least two pages each',
  );
  await expect(
    aRound(store.db, site, PATHS.slice(20), { draw: 'by-hand', first: PATHS.slice(0, 3) }),
  ).rejects.toThrow('not in the round');
});

test('the first half is read against the half that waits', async () => {
  const id = await lifted();
  const { first, second } = read(id);
  expect(second).toBeNull();
  expect(first).toMatchObject({ complete: true, verdict: 'lifted', movedIn: 'appeal', against: 'half' });
  const effect = first!.effects.appeal!;
  expect(Math.exp(effect.net)).toBeGreaterThan(1.25);
  expect(Math.exp(effect.net)).toBeLessThan(1.55);
  // Two blocks of eight: of 4,900 draws only this one and its mirror say as much.
  expect(first!.alone!.appeal).toMatchObject({ p: expect.closeTo(2 / 4900, 12), exact: true, waiting: 1 });
  // The site's other pages are the rest of the control, and bear it out.
  expect(effect.waiting).toBeGreaterThan(0.1);
  expect(effect.waiting).toBeLessThan(0.9);
  expect(effect.p).toBeLessThanOrEqual(2 / 4900);
  expect(Math.abs(first!.effects.showings!.net)).toBeLessThan(0.1);
  expect(first!.pages.filter(({ changed }) => changed)).toHaveLength(8);
  const { before, after } = first!.changed;
  expect(after.clicks / before.clicks).toBeGreaterThan(1.25);
});

test('as it stood on an earlier day it is under way, and plain only once it is as good as certain', async () => {
  const id = await lifted();
  const asOf = (days: number) =>
    readRound(new SiteContext(store.db, site, addDays(MADE, days)), new Engines(store.db), round(id)).first!;
  expect(asOf(2)).toMatchObject({ verdict: 'waiting', read: null });
  expect(asOf(6)).toMatchObject({ verdict: 'waiting', complete: false, early: null });
  expect(asOf(27)).toMatchObject({ verdict: 'waiting', early: { called: 'lifted' } });
});

test('a waiting page that was touched after all leaves, and those it was drawn with stay', async () => {
  const id = await lifted();
  const [touched] = paths(id, 'second');
  const other = { title: 'Other', kind: 'headings', day: isoDay(addDays(MADE, 5)), pages: [touched!] };
  const { id: changeId } = await addChange(store.db, site, newChangeSchema.parse(other));
  const { first } = read(id);
  expect(first!.leftOut).toMatchObject([{ changeId, reason: expect.stringContaining('another change') }]);
  expect(first!.effects.appeal!.pages).toBe(15);
  expect(first!.doubts.join(' ')).toContain('left the comparison');
});

test('the second half’s turn is read against the first', async () => {
  const id = await lifted();
  await decideRound(store.db, id, { decision: 'go-on', reason: 'plain', day: isoDay(AGAIN) });
  await store.import(
    site,
    csv(paths(id, 'second'), (_, at) => (at >= AGAIN + 2 ? 1.4 : 1)),
  );
  await made(id, 'second', AGAIN);
  const { first, second } = read(id);
  expect(first).toMatchObject({ verdict: 'lifted' });
  expect(second).toMatchObject({ half: 'second', verdict: 'lifted', complete: true });
  expect(Math.exp(second!.effects.appeal!.net)).toBeGreaterThan(1.2);
});

test('all at once is held against the site, and halves chosen by hand say so', async () => {
  const all = await aRound(store.db, site, PATHS.slice(0, 6));
  await made(all, 'first', MADE);
  const { first } = read(all);
  expect(first).toMatchObject({ against: 'site', waiting: null, alone: null });
  expect(first!.doubts[0]).toContain('changed at once');
  store.db.$client.prepare("UPDATE round SET deleted_at = 'now'").run();
  const hand = await aRound(store.db, site, PATHS.slice(6, 14), {
    ...{ draw: 'by-hand', first: PATHS.slice(6, 10) },
  });
  await made(hand, 'first', MADE);
  const chosen = read(hand).first!;
  expect(chosen.doubts[0]).toContain('chosen by hand');
  // One block of eight, four of which went first.
  expect((chosen.alone!.appeal!.p * 70) % 1).toBeCloseTo(0, 9);
});

describe('the work', () => {
  test('a half stands in the ledger as one change, with the texts of its pages', async () => {
    const id = await begin({ person: 'IK', expectation: { metric: 'appeal', amount: 0.1 } });
    const [one, two] = pagesOf(round(id), 'first');
    await keepTexts(store.db, site, id, [
      { pageId: one!.page.id, newText: 'New one', person: 'RT' },
      { pageId: two!.page.id, newText: 'New two' },
    ]);
    await recordMade(store.db, site, id, {
      ...{ half: 'first', day: isoDay(MADE), pageIds: [one!.page.id] },
    });
    const change = () => findChange(store.db, round(id).changes.first!)!;
    expect(change()).toMatchObject({
      ...{ title: 'Round: first half', kind: 'title-rewrite', day: MADE, person: 'IK', windowDays: 28 },
      expectation: { metric: 'appeal', amount: 0.1 },
      parts: [{ newText: 'New one' }],
    });
    expect(change().pages).toHaveLength(1);
    await made(id, 'first', MADE);
    expect(change().pages).toHaveLength(8);
    expect(change().parts.map(({ newText }) => newText)).toEqual(['New one', 'New two']);
    await keepTexts(store.db, site, id, [{ pageId: two!.page.id, newText: 'Newer two', person: '' }]);
    expect(change().parts.map(({ newText }) => newText)).toContain('Newer two');
    expect(round(id).pages.find(({ page }) => page.id === one!.page.id)!.person).toBe('RT');
    await takeBackMade(
      store.db,
      site,
      id,
      pagesOf(round(id), 'first').map(({ page }) => page.id),
    );
    expect(change().steps).toMatchObject({ planned: expect.any(Number) });
    expect(listChanges(store.db, site.id)).toHaveLength(1);
  });

  test('steps are kept by page, and pages made long after the others are not compared', async () => {
    const id = await begin();
    const [one, two] = pagesOf(round(id), 'first').map(({ page }) => page.id);
    await recordPageStep(store.db, id, { pageIds: [one!, two!], step: 'crawled', day: isoDay(MADE) });
    await recordPageStep(store.db, id, { pageIds: [two!], step: 'crawled', day: null });
    const steps = new Map(round(id).pages.map(({ page, steps: own }) => [page.id, own]));
    expect([steps.get(one!), steps.get(two!)]).toEqual([{ crawled: MADE }, {}]);
    await made(id, 'first', MADE);
    await recordMade(store.db, site, id, {
      ...{ half: 'first', day: isoDay(addDays(MADE, 20)), pageIds: [one!] },
    });
    const { first } = read(id);
    expect(first!.day).toBe(MADE);
    expect(first!.leftOut.map(({ reason }) => reason)).toEqual(['was made on another day than the others']);
  });

  test('a page of the other half, or a day to come, is refused', async () => {
    const id = await begin();
    const [other] = pagesOf(round(id), 'second');
    const tried = (over: object) =>
      recordMade(store.db, site, id, { half: 'first', day: isoDay(MADE), pageIds: null, ...over });
    await expect(tried({ pageIds: [other!.page.id] })).rejects.toMatchObject({ field: 'pageIds' });
    await expect(tried({ day: '2099-01-01' })).rejects.toMatchObject({ field: 'day' });
    expect(store.rows('round_history')).toEqual([]);
  });
});

test('a plan promises what pages can show, and names those that cannot', async () => {
  await store.import(
    site,
    `date,page,clicks,impressions,position\n${isoDay(addDays(FIRST, DAYS - 3))},/rare/,1,9,4`,
  );
  const pages = pagesNamed(store.db, site, [...ROUND, '/rare/']).map(({ page }) => page);
  const engines = new Engines(store.db);
  const plan = planRound(context(), engines, { pages, effect: 0.3, windowDays: null });
  expect(plan).toMatchObject({ pages: 16, days: 28 });
  expect(plan.leftOut).toMatchObject([{ reason: 'has only one click in 28 days', taken: false }]);
  expect(plan.pagesPerHalf.map(({ effect }) => effect)).toEqual([0.1, 0.15, 0.2, 0.3]);
  const needed = plan.pagesPerHalf.map(({ appeal }) => appeal!);
  expect([...needed].sort((a, b) => b - a)).toEqual(needed);
  const [ten] = plan.pagesPerHalf;
  expect(ten!.power.appeal! > 0.8).toBe(ten!.appeal! <= 8);
  expect(plan.longer.smallestEffect.appeal!).toBeLessThan(plan.smallestEffect.appeal!);
  await begin();
  const [first] = roundCandidates(context(), engines, pages);
  expect(first).toMatchObject({ taken: true, problem: 'is in the round “Round”' });
});

test('in the scorebook a round stands for the changes of its halves, with its forecast', async () => {
  const id = await begin({ person: 'IK', expectation: { metric: 'appeal', amount: 0.05 } });
  await store.import(
    site,
    csv(paths(id, 'first'), (_, at) => (at >= MADE + 2 ? 1.4 : 1)),
  );
  await made(id, 'first', MADE);
  const alone = { title: 'Alone', kind: 'headings', day: isoDay(MADE), pages: [PATHS[20]!] };
  await addChange(store.db, site, newChangeSchema.parse(alone));
  const book = bookOf(bookSource(context(), new Engines(store.db)), 'kind');
  expect(book.read).toBe(2);
  expect(book.lines.map(({ key, changes, rounds }) => [key, changes, rounds])).toEqual([
    ['headings', 1, 0],
    ['title-rewrite', 1, 1],
  ]);
  expect(book.forecasts.person).toMatchObject([{ key: 'IK', met: 1 }]);
  expect(book.ranked[0]!.scored).toMatchObject({ roundId: id, changeId: null });
  expect(bookOf(bookSource(context(), new Engines(store.db)), 'group').lines[0]!.key).toBe('/guides/');
});
