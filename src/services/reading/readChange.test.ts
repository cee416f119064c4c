import { addDays, isoDay } from '../../core/calendar/day';
import { newChangeSchema } from '../../core/model/change';
import { METRICS } from '../../core/measures/registry';
import { newEventSchema } from '../../core/model/event';
import { day, TempStore } from '../../../tests/support/tempDb';
import { addChange } from '../../store/ledger/changes';
import { addEvent } from '../../store/ledger/events';
import { siteTotals } from '../../store/figures/days';
import { Engines } from '../site/engines';
import { pictureOf } from './readingPicture';
import { readChange } from './readChange';
import { saveCompletedVerdicts } from './completedVerdicts';
import { readChanges } from './readChanges';
import { SiteContext } from '../site/siteContext';

const FIRST = day('2026-01-01');
const DAYS = 200;
const CHANGED = day('2026-04-10');

/** Figures that are no pattern to any span: made by arithmetic from the day, so that a test can make them again. */
function made(path: string, i: number) {
  const salt = path.length;
  const impressions = 40 + ((i * 37 + salt * 11) % 91);
  return { clicks: (i * 13 + salt) % 17, impressions, position: 2 + ((i * 7 + salt) % 80) / 10 };
}

const PATHS = ['/guides/smoker/', '/shop/'];

function csv(): string {
  const lines = ['date;page;device;clicks;impressions;position'];
  for (const path of PATHS) {
    for (let i = 0; i < DAYS; i++) {
      const { clicks, impressions, position } = made(path, i);
      const half = Math.floor(clicks / 2);
      const date = isoDay(addDays(FIRST, i));
      lines.push(`${date};${path};desktop;${half};${impressions};${position}`);
      lines.push(`${date};${path};mobile;${clicks - half};${impressions};${position}`);
    }
  }
  return lines.join('\n');
}

/** The sums that a reading should have come to, from the made figures alone. */
function expected(paths: string[], from: string, to: string) {
  let [clicks, impressions, weighted] = [0, 0, 0];
  for (const path of paths) {
    for (let i = 0; i < DAYS; i++) {
      const date = isoDay(addDays(FIRST, i));
      if (date < from || date > to) continue;
      const row = made(path, i);
      clicks += row.clicks;
      impressions += 2 * row.impressions;
      weighted += 2 * row.impressions * row.position;
    }
  }
  return { clicks, impressions, ctr: clicks / impressions, position: weighted / impressions };
}

let store: TempStore;
let engines: Engines;
beforeEach(() => {
  store = new TempStore();
  engines = new Engines(store.db);
});
afterEach(() => store.close());

test('a reading of an imported file equals sums made independently of it', async () => {
  const site = await store.site();
  expect((await store.import(site, csv())).state).toBe('done');
  for (const paths of [[PATHS[0]!], PATHS]) {
    const input = newChangeSchema.parse({ title: 'x', kind: 'title', day: isoDay(CHANGED), pages: paths });
    const change = await addChange(store.db, site, input);
    const { metrics, spans } = readChange(new SiteContext(store.db, site), engines, change, {
      windowDays: 28,
      settlingDays: 7,
    });
    expect([spans.before, spans.after].map((s) => [isoDay(s.firstDay), isoDay(s.lastDay)])).toEqual([
      ['2026-03-13', '2026-04-09'],
      ['2026-04-17', '2026-05-14'],
    ]);
    const before = expected(paths, '2026-03-13', '2026-04-09');
    const after = expected(paths, '2026-04-17', '2026-05-14');
    expect([metrics.clicks.before, metrics.clicks.after]).toEqual([before.clicks, after.clicks]);
    expect([metrics.impressions.before, metrics.impressions.after]).toEqual([
      before.impressions,
      after.impressions,
    ]);
    expect(metrics.ctr.ratio).toBeCloseTo(after.ctr / before.ctr, 12);
    expect(metrics.position.placesGained).toBeCloseTo(before.position - after.position, 10);
  }
});

test('spans come from the wish, then from the change, then from the site', async () => {
  const site = await store.site();
  const input = { title: 'x', kind: 'title', day: isoDay(CHANGED), pages: ['/'] };
  const plain = await addChange(store.db, site, newChangeSchema.parse(input));
  const own = await addChange(
    store.db,
    site,
    newChangeSchema.parse({ ...input, windowDays: 14, settlingDays: 10 }),
  );
  const spansOf = (...args: Parameters<typeof readChange>) => {
    const { windowDays, settlingDays } = readChange(...args).spans;
    return [windowDays, settlingDays];
  };
  expect(spansOf(new SiteContext(store.db, site), engines, plain)).toEqual([28, 3]);
  expect(spansOf(new SiteContext(store.db, site), engines, own)).toEqual([14, 10]);
  expect(spansOf(new SiteContext(store.db, site), engines, own, { windowDays: 7, settlingDays: 0 })).toEqual([
    7, 0,
  ]);
});

test('an update noted in the almanac is a doubt of every reading that it touches, and of no other', async () => {
  const site = await store.site();
  await store.import(site, csv());
  const log = (date: string) =>
    addChange(
      store.db,
      site,
      newChangeSchema.parse({ title: date, kind: 'title', day: date, pages: [`/${date}/`] }),
    );
  await log('2026-03-01');
  await log('2026-05-01');
  await addEvent(
    store.db,
    site.id,
    newEventSchema.parse({
      name: 'Clover update',
      kind: 'algorithm-update',
      firstDay: '2026-05-10',
      lastDay: '2026-05-12',
    }),
  );
  const touched = readChanges(new SiteContext(store.db, site), engines).map((r) => [
    r.change.title,
    r.cautions.some((c) => c.code === 'update-in-span'),
  ]);
  expect(touched).toEqual([
    ['2026-05-01', true],
    ['2026-03-01', false],
  ]);
});

test('the picture holds the days around the spans, added up over the pages', async () => {
  const site = await store.site();
  await store.import(site, csv());
  const change = await addChange(
    store.db,
    site,
    newChangeSchema.parse({ title: 'x', kind: 'title', day: isoDay(CHANGED), pages: PATHS }),
  );
  const reading = readChange(new SiteContext(store.db, site), engines, change);
  const { shown, days } = pictureOf(new SiteContext(store.db, site), engines, reading);
  expect(shown.firstDay).toBe(reading.spans.before.firstDay - 21);
  expect(shown.lastDay).toBe(reading.spans.after.lastDay + 21);
  expect(days).toHaveLength(shown.lastDay - shown.firstDay + 1);
  const i = CHANGED - FIRST;
  expect(days.find((row) => row.day === CHANGED)?.clicks).toBe(
    PATHS.reduce((sum, path) => sum + made(path, i).clicks, 0),
  );
});

test('site totals are the sums of each page over the span', async () => {
  const site = await store.site();
  await store.import(site, csv());
  const [totals] = siteTotals(store.db, site.id, [
    { firstDay: day('2026-03-01'), lastDay: day('2026-03-28') },
  ]);
  const wanted = PATHS.map((path) => expected([path], '2026-03-01', '2026-03-28'));
  expect([...totals!.values()].map((t) => t.clicks).sort()).toEqual(wanted.map((w) => w.clicks).sort());
  expect([...totals!.values()].map((t) => t.days)).toEqual([28, 28]);
});

/** A site of twelve pages over 300 days, of which the first doubles its clicks on the day of the change. */
function siteCsv(byQuery: boolean): string {
  const lines = [`date;page;${byQuery ? 'query' : 'device'};clicks;impressions;position`];
  for (let n = 1; n <= 12; n++) {
    for (let i = 0; i < 300; i++) {
      const date = isoDay(addDays(day('2025-09-01'), i));
      const wander = 1 + 0.08 * Math.sin(i / (7 + n)) + 0.04 * Math.cos(i * n);
      const after = n === 1 && date >= '2026-04-10' ? 2 : 1;
      const parts = byQuery ? ['hive tool', 'wax'] : ['mobile', 'desktop'];
      parts.forEach((part, k) => {
        const clicks = Math.round(20 * wander * (part === 'wax' ? 1 : after));
        lines.push(`${date};/guides/page-${n}/;${part};${clicks};${400 + 10 * k};${5 + k}`);
      });
    }
  }
  return lines.join('\n');
}

/** The same rows with the devices of each page and day added up. */
function asOneDevice(csv: string): string {
  const sums = new Map<string, [number, number, number]>();
  for (const line of csv.split('\n').slice(1)) {
    const [date, page, , clicks, impressions, position] = line.split(';');
    const sum = sums.get(`${date};${page}`) ?? [0, 0, 0];
    sums.set(`${date};${page}`, sum);
    sum[0] += Number(clicks);
    sum[1] += Number(impressions);
    sum[2] += Number(impressions) * Number(position);
  }
  const lines = [...sums].map(([key, [clicks, shown, sum]]) => `${key};${clicks};${shown};${sum / shown}`);
  return ['date;page;clicks;impressions;position', ...lines].join('\n');
}

/** The same rows with the changed page's clicks after the change revised down by a third. */
function revised(csv: string): string {
  return csv
    .split('\n')
    .map((line) => {
      const parts = line.split(';');
      if (parts[1] !== '/guides/page-1/' || parts[0]! < '2026-04-10') return line;
      return [...parts.slice(0, 3), Math.round((Number(parts[3]) * 2) / 3), ...parts.slice(4)].join(';');
    })
    .join('\n');
}

describe('net effects from what is stored', () => {
  const log = async (site: Awaited<ReturnType<TempStore['site']>>, pages = ['/guides/page-1/']) =>
    addChange(store.db, site, newChangeSchema.parse({ title: 'x', kind: 'title', day: '2026-04-10', pages }));

  test('a page that doubled is lifted; another on the same day is not', async () => {
    const site = await store.site();
    await store.import(site, siteCsv(false));
    const [lifted, still] = [await log(site), await log(site, ['/guides/page-2/'])];
    const reading = readChange(new SiteContext(store.db, site), engines, lifted);
    expect(reading).toMatchObject({ verdict: 'lifted', judged: 'appeal', movedIn: 'appeal' });
    expect(reading.net!.clicks!.ratio).toBeGreaterThan(1.6);
    expect(reading.yardstick!.pages).toBe(10);
    const { yardstick, path } = pictureOf(new SiteContext(store.db, site), engines, reading);
    expect(yardstick.map((page) => page.address.slice(-8))).toEqual([
      ...['page-10/', 'page-11/', 'page-12/'],
      ...[3, 4, 5, 6, 7, 8, 9].map((n) => `/page-${n}/`),
    ]);
    expect(path!.clicks.some((log) => log !== null)).toBe(true);
    expect(readChange(new SiteContext(store.db, site), engines, still).verdict).not.toBe('lifted');
    expect(
      readChanges(new SiteContext(store.db, site), engines).map((r) => [r.change.id, r.net, r.verdict]),
    ).toEqual([
      [still.id, readChange(new SiteContext(store.db, site), engines, still).net, expect.any(String)],
      [lifted.id, reading.net, 'lifted'],
    ]);
  });

  test('a day’s rows divided by device, or not, make the same reading', async () => {
    const [whole, divided] = [await store.site(), await store.site('https://two.quillow-bees.example')];
    const csv = siteCsv(false);
    await store.import(whole, asOneDevice(csv));
    await store.import(divided, csv);
    const [a, b] = [
      readChange(new SiteContext(store.db, whole), engines, await log(whole)),
      readChange(new SiteContext(store.db, divided), engines, await log(divided)),
    ];
    for (const metric of METRICS) {
      expect(b.estimates![metric]!.net).toBeCloseTo(a.estimates![metric]!.net, 9);
      expect(b.estimates![metric]!.standardError).toBeCloseTo(a.estimates![metric]!.standardError, 9);
    }
    expect(b.verdict).toBe(a.verdict);
  });

  test('as of a day it knows nothing after it, and says what it said when its days were over', async () => {
    const site = await store.site();
    await store.import(site, siteCsv(false));
    const change = await log(site);
    const then = (iso: string) => {
      const context = new SiteContext(store.db, site, day(iso));
      return readChange(context, engines, change, { asOf: day(iso) });
    };
    const early = then('2026-04-28');
    expect([early.verdict, early.asOf]).toEqual(['waiting', day('2026-04-28')]);
    expect(early.early).toMatchObject({ called: 'lifted' });
    expect(early.early!.day).toBeLessThanOrEqual(day('2026-04-28'));
    expect(then('2026-04-12').early).toBeNull();
    // What complete readings say is saved as figures arrive; figures revised later do not unsay it.
    const arrived = new SiteContext(store.db, site);
    await saveCompletedVerdicts(arrived, readChanges(arrived, engines));
    const said = readChange(new SiteContext(store.db, site), engines, change);
    expect(said.saidAtCompletion).toBeNull();
    await store.import(site, revised(siteCsv(false)));
    const again = readChange(new SiteContext(store.db, site), engines, change);
    expect(again.saidAtCompletion).toMatchObject({
      verdict: 'lifted',
      sentence: expect.stringMatching(/^It was chosen/),
    });
    expect(again.net!.clicks!.ratio).toBeLessThan(said.net!.clicks!.ratio);
  });

  test('narrowed to a device, a query or a page, it reads their figures alone', async () => {
    const site = await store.site();
    await store.import(site, siteCsv(false));
    await store.import(site, siteCsv(true));
    const change = await log(site, ['/guides/page-1/', '/guides/page-2/']);
    const whole = readChange(new SiteContext(store.db, site), engines, change);
    const mobile = readChange(new SiteContext(store.db, site), engines, change, { device: 'mobile' });
    const desktop = readChange(new SiteContext(store.db, site), engines, change, { device: 'desktop' });
    expect(mobile.metrics.clicks.before! + desktop.metrics.clicks.before!).toBe(whole.metrics.clicks.before);
    expect(mobile.metrics.position.before).toBeCloseTo(5, 12);
    expect(mobile.net!.clicks!.ratio).toBeGreaterThan(1.2);
    const one = readChange(new SiteContext(store.db, site), engines, change, { pageId: change.pages[0]!.id });
    expect(one.metrics.clicks.before).toBeLessThan(whole.metrics.clicks.before!);
    expect([one.verdict, one.pages, whole.pages.length]).toEqual(['lifted', [], 2]);
    const query = readChange(new SiteContext(store.db, site), engines, change, {
      query: 'hive tool',
      pageId: change.pages[0]!.id,
    });
    const other = readChange(new SiteContext(store.db, site), engines, change, {
      query: 'wax',
      pageId: change.pages[0]!.id,
    });
    expect(query.verdict).toBe('lifted');
    expect(other.verdict).not.toBe('lifted');
    expect(query.metrics.clicks.before! + other.metrics.clicks.before!).toBe(one.metrics.clicks.before);
    const never = readChange(new SiteContext(store.db, site), engines, change, { query: 'never seen' });
    expect(never).toMatchObject({ verdict: 'unclear', net: null });
  });

  test('why clicks moved comes from the rows by query, and adds up', async () => {
    const site = await store.site();
    await store.import(site, siteCsv(false));
    await store.import(site, siteCsv(true));
    const { reasons, metrics } = readChange(new SiteContext(store.db, site), engines, await log(site));
    expect(reasons!.total).toBe(metrics.clicks.difference);
    expect(reasons!.reach + reasons!.rank + reasons!.appeal + reasons!.unseen).toBeCloseTo(reasons!.total, 9);
    expect(reasons!.queries.map((q) => [q.query, q.seen])).toEqual([
      ['hive tool', 'kept'],
      ['wax', 'kept'],
    ]);
    // One query was chosen twice as often at the same rank and exposure; the page rose by more than its rows show.
    expect(reasons!.appeal / (reasons!.total - reasons!.unseen)).toBeGreaterThan(0.9);
    expect(reasons!.unseen).toBeGreaterThan(0);
  });

  test('figures brought in later are seen by the same engine, and a change logged later leaves the yardstick', async () => {
    const site = await store.site();
    await store.import(site, siteCsv(false));
    const change = await log(site);
    expect(readChange(new SiteContext(store.db, site), engines, change).yardstick!.pages).toBe(11);
    await log(site, ['/guides/page-5/']);
    expect(readChange(new SiteContext(store.db, site), engines, change).yardstick!.pages).toBe(10);
    await store.import(site, 'date;page;clicks;impressions\n2026-04-20;/guides/page-1/;9000;9000');
    expect(readChange(new SiteContext(store.db, site), engines, change).net!.clicks!.ratio).toBeGreaterThan(
      5,
    );
    expect(readChanges(new SiteContext(store.db, site), engines)[1]!.net!.clicks!.ratio).toBeGreaterThan(5);
  });
});
