import { addDays, isoDay, type Day } from '../../core/calendar/day';
import { newChangeSchema } from '../../core/model/change';
import type { Site } from '../../core/model/site';
import { day, TempStore } from '../../../tests/support/tempDb';
import { addChange } from '../../store/ledger/changes';
import { pageChain } from './pageChain';
import { SiteContext } from '../site/siteContext';
import { listPages } from '../../store/addresses/pages';
import { Engines } from '../site/engines';

const FIRST = day('2026-01-01');
const DAYS = 180;

let store: TempStore;
let site: Site;
beforeEach(async () => {
  store = new TempStore();
  site = await store.site();
  const lines = ['date,page,clicks,impressions,position'];
  for (let i = 0; i < DAYS; i++) {
    for (const page of ['/a/', '/b/', '/c/', '/d/', '/e/', '/f/'])
      lines.push(`${isoDay(addDays(FIRST, i))},${page},${page === '/a/' && i >= 100 ? 20 : 10},200,5`);
  }
  await store.import(site, lines.join('\n'));
});
afterEach(() => store.close());

const log = (title: string, after: number, pages = ['/a/']) =>
  addChange(
    store.db,
    site,
    newChangeSchema.parse({ title, kind: 'headings', day: isoDay(addDays(FIRST, after) as Day), pages }),
  );
const chain = () => {
  const [a] = listPages(store.db, site.id);
  return pageChain(new SiteContext(store.db, site), new Engines(store.db), a!.id);
};

test('each change of a page is read against its own spans, cut short by the next', async () => {
  await log('First', 100, ['/a/', '/b/']);
  await log('Second', 119);
  await log('Third', 122);
  await log('Elsewhere', 110, ['/c/']);
  const { links, whole } = chain();
  expect(
    links.map(({ entry, spans, cutBy, tooShort }) => [entry.title, spans.windowDays, cutBy, tooShort]),
  ).toEqual([
    ['Third', 28, null, false],
    ['Second', 7, 'Third', true],
    // From the third day after it on sixteen days are left: two whole weeks.
    ['First', 14, 'Second', false],
  ]);
  // On this page alone, and not on the other that it was made on too.
  expect(links[2]!.entry.effect).toBe('+100%');
  expect(links[2]!.entry.verdict).toBe('lifted');
  expect(whole!.spans.before.lastDay).toBe(addDays(FIRST, 99));
  expect(whole!.spans.after.firstDay).toBe(addDays(FIRST, 125));
  expect(whole!.entry.effect).toBe('+100%');
});

test('a page without changes has none, one with a single change no whole', async () => {
  expect(chain()).toEqual({ links: [], whole: null });
  await log('Alone', 100);
  expect(chain()).toMatchObject({ links: [{ cutBy: null }], whole: null });
});
