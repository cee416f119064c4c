import { randomLcg, randomPoisson } from 'd3-random';
import { addDays, isoDay } from '../../core/calendar/day';
import type { Site } from '../../core/model/site';
import { nameGroup } from '../../store/figures/movingGroups';
import { day, TempStore } from '../../../tests/support/tempDb';
import { Engines } from '../site/engines';
import { movingGroups } from './movingGroups';
import { SiteContext } from '../site/siteContext';

const FIRST = day('2025-06-01');
const DAYS = 400;
const PAGES = 24;
/** Pages whose number is odd move with the bees, the others against them; no path shows it. */
const moves = (n: number, i: number) => Math.exp((n % 2 === 1 ? 0.45 : -0.45) * Math.sin(i / 26));

let store: TempStore;
let site: Site;
beforeEach(async () => {
  store = new TempStore();
  site = await store.site();
});
afterEach(() => store.close());

async function bringIn(): Promise<void> {
  const pages = ['date,page,clicks,impressions,position'];
  const queries = ['date,page,query,clicks,impressions,position'];
  for (let n = 0; n < PAGES; n++) {
    const poisson = randomPoisson.source(randomLcg((n + 1) / 60));
    for (let i = 0; i < DAYS; i++) {
      const impressions = poisson(600 * moves(n, i))();
      const clicks = Math.min(impressions, poisson(45 * moves(n, i))());
      const start = `${isoDay(addDays(FIRST, i))},/guides/${n}/`;
      pages.push(`${start},${clicks},${impressions},5`);
      if (i >= DAYS - 30) queries.push(`${start},${n % 2 === 1 ? 'honey' : 'wax'} ${n},6,80,5`);
    }
  }
  await store.import(site, pages.join('\n'));
  await store.import(site, queries.join('\n'));
}

const groups = () => movingGroups(new SiteContext(store.db, site), new Engines(store.db))!;

test('pages that move together are found from their figures, and named by what they are searched for', async () => {
  await bringIn();
  const { learned, groups: found } = groups();
  expect(learned).toBe(true);
  const large = found.filter(({ pages }) => pages.length > 2);
  expect(large).toHaveLength(2);
  for (const { pages, words, mostly, name, named } of large) {
    const odd = pages.map(({ address }) => Number(/(\d+)\/$/.exec(address)![1]) % 2);
    expect(new Set(odd).size).toBe(1);
    expect(words).toContain(odd[0] === 1 ? 'honey' : 'wax');
    expect(mostly).toBe('/guides/');
    expect(named).toBe(false);
    expect(name).toContain(odd[0] === 1 ? 'honey' : 'wax');
  }
  expect(found.reduce((sum, { pages }) => sum + pages.length, 0)).toBe(PAGES);
});

test('its days are the sums of its pages, and a name that was given stays with them', async () => {
  await bringIn();
  const [first] = groups().groups;
  const { shown, clicks, impressions, appeal } = first!.days;
  expect(shown.lastDay).toBe(addDays(FIRST, DAYS - 1));
  expect(clicks).toHaveLength(182);
  const at = 100;
  const i = shown.firstDay + at - FIRST;
  const odd = Number(/(\d+)\/$/.exec(first!.pages[0]!.address)![1]) % 2;
  const expected = first!.pages.length * 600 * moves(odd, i);
  expect(impressions[at]! / expected).toBeGreaterThan(0.9);
  expect(impressions[at]! / expected).toBeLessThan(1.1);
  // Chosen as usual all along.
  expect(appeal[at]!).toBeGreaterThan(0.85);
  expect(appeal[at]!).toBeLessThan(1.15);

  const ids = first!.pages.map(({ id }) => id);
  await nameGroup(store.db, site.id, ids, 'Bees');
  expect(groups().groups.find(({ name }) => name === 'Bees')).toMatchObject({ named: true });
  await nameGroup(store.db, site.id, ids, '');
  expect(groups().groups.some(({ named }) => named)).toBe(false);
});

test('a site without figures has none', async () => {
  expect(movingGroups(new SiteContext(store.db, site), new Engines(store.db))).toBeNull();
});
