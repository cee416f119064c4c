import { addDays, isoDay } from '../../core/calendar/day';
import { newEventSchema } from '../../core/model/event';
import { day, TempStore } from '../../../tests/support/tempDb';
import { acrossSentence, relativeText } from '../../core/reading/across';
import { movedAcross } from './acrossEvent';
import { SiteContext } from '../site/siteContext';
import { addEvent } from '../../store/ledger/events';
import { Engines } from '../site/engines';

let store: TempStore;
beforeEach(() => {
  store = new TempStore();
});
afterEach(() => store.close());

const FIRST = day('2025-09-01');
const UPDATE = addDays(FIRST, 240);

/** Fourteen guides and six shop pages that wander; across the update the shop loses half of its clicks. */
function siteCsv(): string {
  const lines = ['date,page,clicks,impressions,position'];
  for (let n = 0; n < 20; n++) {
    const shop = n >= 14;
    for (let i = 0; i < 300; i++) {
      const wander = 1 + 0.08 * Math.sin(i / (7 + n)) + 0.04 * Math.cos(i * n);
      const clicks = Math.round(40 * wander * (shop && FIRST + i >= UPDATE + 3 ? 0.5 : 1));
      lines.push(`${isoDay(addDays(FIRST, i))},/${shop ? 'shop' : 'guides'}/page-${n}/,${clicks},900,5`);
    }
  }
  return lines.join('\n');
}

test('the part of a site that an update struck shows against the rest of it', async () => {
  const site = await store.site();
  await store.import(site, siteCsv());
  const note = (firstDay: number, lastDay: number) =>
    addEvent(
      store.db,
      site.id,
      newEventSchema.parse({
        ...{ name: 'Clover update', kind: 'algorithm-update' },
        ...{ firstDay: isoDay(addDays(FIRST, firstDay)), lastDay: isoDay(addDays(FIRST, lastDay)) },
      }),
    );
  const { id } = await note(240, 242);
  const across = movedAcross(new SiteContext(store.db, site), new Engines(store.db), id)!;
  // The days of the update itself are left out.
  expect([across.before.lastDay, across.after.firstDay]).toEqual([addDays(UPDATE, -1), addDays(UPDATE, 3)]);
  const part = (name: string) => across.lines!.parts.find((one) => one.name === name)!;
  expect(part('/shop/')).toMatchObject({ mark: 'dropped', pages: 6, pageId: null });
  expect(part('/shop/').net.clicks!.ratio).toBeLessThan(0.65);
  expect(part('/guides/').mark).not.toBe('dropped');
  // The site's own fall comes first, and what was counted stands beside what is net of the rest.
  const { site: whole, parts } = across.lines!;
  expect(whole.clicks.ratio).toBeGreaterThan(0.8);
  expect(whole.clicks.ratio).toBeLessThan(0.9);
  const sum = (side: 'before' | 'after') => parts.reduce((total, { raw }) => total + raw.clicks[side]!, 0);
  expect([sum('before'), sum('after')]).toEqual([whole.clicks.before, whole.clicks.after]);
  expect(part('/shop/').raw.clicks.ratio).toBeLessThan(0.6);
  expect(acrossSentence(across.lines!)).toMatch(
    /^Clicks of the whole site fell from [\d,]+ to [\d,]+ \(−[\d,]+, −1\d\.\d%\)\. \/shop\/ fell most: clicks fell from /,
  );
  // The guides are lifted by nothing but the fall of the rest, and say so.
  expect(relativeText({ ...part('/guides/'), mark: 'lifted', raw: part('/shop/').raw })).toBe(
    'fell, but less than the rest',
  );
  const dropped = across.lines!.pages.filter(({ mark }) => mark === 'dropped').map(({ name }) => name);
  expect(dropped.filter((name) => name.startsWith('/shop/'))).toHaveLength(6);
  expect(across.lines!.pages).toHaveLength(20);
  // The largest falls come first.
  expect(across.lines!.pages[0]!.name).toMatch(/^\/shop\//);
});

test('it waits until the days after are over, and knows no event of another site', async () => {
  const site = await store.site();
  await store.import(site, siteCsv());
  const input = { name: 'Late', kind: 'outage', firstDay: isoDay(addDays(FIRST, 290)) };
  const { id } = await addEvent(store.db, site.id, newEventSchema.parse(input));
  expect(movedAcross(new SiteContext(store.db, site), new Engines(store.db), id)!.lines).toBeNull();
  expect(movedAcross(new SiteContext(store.db, { ...site, id: 99 }), new Engines(store.db), id)).toBeNull();
  expect(movedAcross(new SiteContext(store.db, site), new Engines(store.db), 999)).toBeNull();
});
