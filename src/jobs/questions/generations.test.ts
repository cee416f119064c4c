import { unpacked } from '../../core/lists/packed';
import { ALONE, type Principal } from '../../core/access/rights';
import { addDays, isoDay, type Day } from '../../core/calendar/day';
import { newChangeSchema } from '../../core/model/change';
import type { Site } from '../../core/model/site';
import { FakeThread } from '../../../tests/support/fakeThread';
import { day, TempStore } from '../../../tests/support/tempDb';
import { withAuditContext } from '../../store/acting';
import { addChange } from '../../store/ledger/changes';
import { askReadings } from './ask';
import { whoIs } from './generation';
import { Generations } from './generations';

/*
 * Who sees which figures while newer ones are worked in. Preparations wait here until a test lets them go.
 */

let store: TempStore;
let site: Site;
let generations: Generations;
let letGo: (() => void)[];

const person = (id: string, name: string): Principal => ({
  ...{ kind: 'person', id, name, email: `${name}@quillow-bees.example` },
  ...{ administrator: false, roles: new Map([[site.id, 'editor']]), sessionId: 's' },
});
const FIRST = day('2026-03-01');
const DAYS = 100;
const iso = (offset: number) => isoDay(addDays(FIRST, offset));

/** Figures of some pages over some days; each day of each page brings so many clicks. */
function figures(clicks: number, days = DAYS, from = 0): string {
  const lines = ['date,page,clicks,impressions,position'];
  for (let at = from; at < days; at++)
    for (let page = 0; page < 8; page++)
      lines.push(`${iso(at)},/page-${page}/,${clicks + page},${100 * (clicks + page)},5`);
  return lines.join('\n');
}

beforeEach(async () => {
  store = new TempStore();
  site = await store.site();
  letGo = [];
  generations = new Generations(
    site.id,
    () => new FakeThread(store.file, site.id),
    async (work) => {
      await new Promise<void>((resolve) => letGo.push(resolve));
      await work();
    },
  );
  await store.import(site, figures(10));
});
afterEach(() => {
  FakeThread.endAll();
  store.close();
});

/** Brings figures in as the worker does: what is shown is held just before they count. */
async function bringIn(csv: string): Promise<void> {
  await generations.hold();
  await store.import(site, csv);
}

const log = (title: string, on: Day, page = '/page-0/') =>
  addChange(
    store.db,
    site,
    newChangeSchema.parse({ title, kind: 'title-rewrite', day: isoDay(on), pages: [page] }),
  );
/** The clicks of a day, as they are shown to somebody. */
async function clicksOn(offset: number, asker: Principal): Promise<number | null | undefined> {
  const wish = { pageIds: null, query: null, device: 0, span: null };
  const seen = await generations.ask('days', { siteId: site.id, wish }, whoIs(asker));
  const at = addDays(FIRST, offset) - seen!.shown.firstDay;
  return seen!.clicks[at];
}
/** Lets the next preparation go that is asked for by then, and waits until it is over. */
async function prepared(): Promise<void> {
  while (letGo.length === 0) await new Promise((resolve) => setImmediate(resolve));
  const before = FakeThread.all.length;
  letGo.shift()!();
  while (FakeThread.all.length === before || !FakeThread.all.at(-2)!.ended)
    await new Promise((resolve) => setTimeout(resolve, 5));
}

test('who had nothing to do with newer figures sees those before them until they are worked in', async () => {
  const reader = person('r', 'R');
  const before = await clicksOn(50, reader);
  expect(before).toBe(8 * 10 + 28);
  await bringIn(figures(20));
  expect(await clicksOn(50, reader)).toBe(before);
  expect(await clicksOn(50, { kind: 'nobody' })).toBe(before);
  await prepared();
  expect(await clicksOn(50, reader)).toBe(8 * 20 + 28);
  // Nothing is left behind of the thread before.
  expect(FakeThread.all.map(({ ended }) => ended)).toEqual([true, false]);
});

test('who brought figures in waits until they are worked in, and others do not wait with them', async () => {
  const [editor, reader] = [person('e', 'E'), person('r', 'R')];
  expect(await clicksOn(50, editor)).toBe(108);
  const doing = { auditAction: 'brought a file in', siteId: site.id, thing: null };
  await withAuditContext({ asker: editor, ...doing }, () => bringIn(figures(20)));
  let answered = false;
  const own = clicksOn(50, editor).finally(() => (answered = true));
  expect(await clicksOn(50, reader)).toBe(108);
  expect(answered).toBe(false);
  await prepared();
  expect(await own).toBe(188);
  expect(await clicksOn(50, reader)).toBe(188);
});

test('who is alone with the program sees everything as it stands at once', async () => {
  expect(await clicksOn(50, ALONE)).toBe(108);
  await bringIn(figures(20));
  expect(await clicksOn(50, ALONE)).toBe(188);
  expect(letGo).toEqual([]);
  expect(FakeThread.all).toHaveLength(1);
});

test('the first figures of a site are shown to everybody at once', async () => {
  const other = await store.site('https://www.other-bees.example');
  const fresh = new Generations(
    other.id,
    () => new FakeThread(store.file, other.id),
    (work) => work(),
  );
  const wish = { pageIds: null, query: null, device: 0, span: null };
  expect(await fresh.ask('days', { siteId: other.id, wish }, 'nobody')).toBeNull();
  await store.import(other, figures(10));
  expect((await fresh.ask('days', { siteId: other.id, wish }, 'nobody'))!.clicks[50]).toBe(108);
});

test('changes are seen as soon as they are logged, while figures are worked in too', async () => {
  const [reader, editor] = [person('r', 'R'), person('e', 'E')];
  const titles = async (asker: Principal) =>
    unpacked(await generations.ask('ledger', { siteId: site.id }, whoIs(asker))).map(({ title }) => title);
  await log('One', addDays(FIRST, 40));
  expect(await titles(reader)).toEqual(['One']);
  await bringIn(figures(20));
  await withAuditContext(
    { asker: editor, auditAction: 'logged a change', siteId: site.id, thing: null },
    () => log('Made today', addDays(FIRST, DAYS + 1), '/page-1/'),
  );
  expect(await titles(reader)).toEqual(['Made today', 'One']);
  expect(await titles(editor)).toEqual(['Made today', 'One']);
});

test('of a change that was made long ago others see a reading from what was learned before, and its author the one to come', async () => {
  const [reader, editor] = [person('r', 'R'), person('e', 'E')];
  const reading = async (id: number, asker: Principal) =>
    (await generations.ask('reading', { siteId: site.id, changeId: id, wish: {} }, whoIs(asker)))!;
  const first = await log('One', addDays(FIRST, 40));
  await reading(first.id, reader);
  const late = await withAuditContext(
    { asker: editor, auditAction: 'logged a change', siteId: site.id, thing: null },
    () => log('Written down late', addDays(FIRST, 50), '/page-3/'),
  );
  expect((await reading(late.id, reader)).change.title).toBe('Written down late');
  let answered = false;
  const own = reading(late.id, editor).finally(() => (answered = true));
  await reading(first.id, reader);
  expect(answered).toBe(false);
  await prepared();
  expect((await own).net).toEqual((await reading(late.id, ALONE)).net);
});

test('a list of days that are not shown yet waits for them', async () => {
  const reader = person('r', 'R');
  await clicksOn(50, reader);
  await bringIn(figures(10, DAYS + 7, DAYS));
  const comparison = () =>
    generations.ask(
      'comparison',
      {
        ...{ siteId: site.id, asOf: null },
        wish: {
          ...{ pageIds: null, query: null, device: null },
          before: { firstDay: addDays(FIRST, 86), lastDay: addDays(FIRST, 92) },
          after: { firstDay: addDays(FIRST, 93), lastDay: addDays(FIRST, 99 + 7) },
        },
      },
      whoIs(reader),
    );
  let answered = false;
  const waiting = comparison().finally(() => (answered = true));
  await clicksOn(50, reader);
  expect(answered).toBe(false);
  await prepared();
  expect((await waiting)!.metrics.clicks.after).toBe(14 * 108);
});

test('a list of readings that was begun is read to its end, though the next generation has come', async () => {
  for (let i = 0; i < 120; i++) await log(`Change ${i}`, addDays(FIRST, i % DAYS), `/page-${i % 8}/`);
  const reader = whoIs(person('r', 'R'));
  let count = 0;
  for await (const some of askReadings(site.id, {}, reader, generations)) {
    count += some.length;
    if (count > 100) break;
    await bringIn(figures(20));
    await clicksOn(50, person('r', 'R'));
    while (letGo.length === 0) await new Promise((resolve) => setImmediate(resolve));
    letGo.shift()!();
    while ((await clicksOn(50, person('r', 'R'))) !== 188)
      await new Promise((resolve) => setTimeout(resolve, 20));
    expect(FakeThread.all[0]!.ended).toBe(false);
  }
  expect(count).toBe(120);
  expect(FakeThread.all.map(({ ended }) => ended)).toEqual([true, false]);
});

test('though nobody asks, the next generation is prepared', async () => {
  await clicksOn(50, person('r', 'R'));
  await bringIn(figures(20));
  FakeThread.all[0]!.idle();
  await prepared();
  expect(await clicksOn(50, person('r', 'R'))).toBe(188);
});

test('the write-ahead log is free again once a generation is over, or nothing came, or one is alone', async () => {
  const { $client } = store.db;
  const isHeld = () => ($client.pragma('wal_checkpoint(TRUNCATE)') as { busy: number }[])[0]!.busy === 1;
  const reader = person('r', 'R');
  await clicksOn(50, ALONE);
  await bringIn(figures(20));
  expect(isHeld()).toBe(false);
  await clicksOn(50, reader);
  await bringIn(figures(30));
  expect(isHeld()).toBe(true);
  await clicksOn(50, reader);
  await prepared();
  expect(isHeld()).toBe(false);
  await clicksOn(50, reader);
  await generations.hold();
  expect(isHeld()).toBe(true);
  const now = jest.spyOn(Date, 'now').mockReturnValue(Date.now() + 11_000);
  FakeThread.all.at(-1)!.idle();
  now.mockRestore();
  expect(isHeld()).toBe(false);
  await generations.hold();
  await clicksOn(50, ALONE);
  expect(isHeld()).toBe(false);
});

test('a site that makes room for others while it prepares leaves no thread behind', async () => {
  await clicksOn(50, person('r', 'R'));
  await bringIn(figures(20));
  await clicksOn(50, person('r', 'R'));
  generations.end();
  await prepared();
  while (FakeThread.all.some(({ ended }) => !ended)) await new Promise((resolve) => setTimeout(resolve, 5));
  expect(FakeThread.all).toHaveLength(2);
});

test('figures that count without a word are shown to everybody at once', async () => {
  const reader = person('r', 'R');
  expect(await clicksOn(50, reader)).toBe(108);
  await store.import(site, figures(20));
  expect(await clicksOn(50, reader)).toBe(188);
  expect(FakeThread.all).toHaveLength(1);
});

test('a preparation that fails leaves what there is, and who waited is answered from everything as it stands', async () => {
  const editor = person('e', 'E');
  await clicksOn(50, editor);
  await withAuditContext(
    { asker: editor, auditAction: 'brought a file in', siteId: site.id, thing: null },
    () => bringIn(figures(20)),
  );
  const error = jest.spyOn(console, 'error').mockImplementation(() => undefined);
  const own = clicksOn(50, editor);
  for (let i = 0; i < 3; i++) {
    while (letGo.length === 0) await new Promise((resolve) => setImmediate(resolve));
    const before = FakeThread.all.length;
    letGo.shift()!();
    while (FakeThread.all.length === before) await new Promise((resolve) => setImmediate(resolve));
    FakeThread.all.at(-1)!.emit('exit', 1);
  }
  expect(await own).toBe(188);
  expect(error).toHaveBeenCalledTimes(3);
  error.mockRestore();
});
