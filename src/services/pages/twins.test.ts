import { addDays, isoDay } from '../../core/calendar/day';
import { newChangeSchema } from '../../core/model/change';
import type { Site } from '../../core/model/site';
import { pageKeyMaker } from '../../core/address/rules';
import { day, HOME, TempStore } from '../../../tests/support/tempDb';
import { saveRules } from '../../store/addresses/rekey';
import { addChange } from '../../store/ledger/changes';
import { Engines } from '../site/engines';
import { missedJoins } from './missedJoins';
import { readChange } from '../reading/readChange';
import { SiteContext } from '../site/siteContext';
import { pageChoices, wrongTwins, wrongTwinText } from './twins';

const FIRST = day('2026-01-01');

let store: TempStore;
let site: Site;
beforeEach(async () => {
  store = new TempStore();
  site = await store.site();
});
afterEach(() => store.close());

const context = () => new SiteContext(store.db, site);
const GUIDES = ['how-to-splice-rope', 'knots', 'bees', 'wax', 'smoke'];

/** Search figures of pages with a slash at the end. */
const search = (days = 60) =>
  [
    'date,page,clicks,impressions,position',
    ...Array.from({ length: days }, (_, i) =>
      GUIDES.map((guide, g) => `${isoDay(addDays(FIRST, i))},/guides/${guide}/,${g + 1},100,4`),
    ).flat(),
  ].join('\n');
/** Landing pages without it. */
const visits = (path: (guide: string) => string) =>
  [
    'date,page,sessions',
    ...GUIDES.map((guide) => `2026-02-01,${path(guide)},9`),
    '2026-02-01,/contact,3',
  ].join('\n');

test('pages are chosen by their clicks, and a landing page without a slash is offered as its twin', async () => {
  await store.import(site, search());
  await store.import(
    site,
    visits((guide) => `/guides/${guide}`),
  );
  const choices = pageChoices(context());
  expect(choices.slice(0, 2)).toEqual([
    { path: '/guides/smoke/', clicks: 140, twin: null, group: null },
    { path: '/guides/wax/', clicks: 112, twin: null, group: null },
  ]);
  expect(choices.find(({ path }) => path === '/guides/knots')).toEqual({
    ...{ path: '/guides/knots', clicks: null, twin: '/guides/knots/', group: null },
  });
  expect(choices.find(({ path }) => path === '/contact')).toMatchObject({ clicks: null, twin: null });
});

test('a change logged on the wrong twin says so in its reading, where it read as nought before', async () => {
  await store.import(site, search());
  await store.import(
    site,
    visits((guide) => `/guides/${guide}`),
  );
  const log = (page: string) =>
    addChange(
      store.db,
      site,
      newChangeSchema.parse({ title: page, kind: 'title', day: '2026-01-30', pages: [page] }),
    );
  const cautions = async (page: string) =>
    readChange(context(), new Engines(store.db), await log(page)).cautions.filter(
      ({ code }) => code === 'twin-has-figures',
    );
  expect(await cautions('/guides/knots')).toEqual([
    expect.objectContaining({
      message:
        '/guides/knots has no search figures, and /guides/knots/ has (56 clicks in the last 28 days): name that one, or join the two under Addresses.',
    }),
  ]);
  expect(await cautions('/guides/knots/')).toEqual([]);
  expect(await cautions('/contact')).toEqual([]);
});

test('addresses that make no sense have no twin', async () => {
  await store.import(site, search());
  expect(
    wrongTwins(context(), ['https://other.example/guides/knots', 'http://[', '/GUIDES/knots/index.html']),
  ).toEqual([{ address: `${HOME}/GUIDES/knots/index.html`, twin: `${HOME}/guides/knots/`, clicks: 56 }]);
  expect(wrongTwinText({ address: `${HOME}/a`, twin: `${HOME}/a/`, clicks: 1 })).toMatch(/\(1 click in/);
});

test('right after an import that misses the other source by its spelling, the rule that joins is named and does join', async () => {
  await store.import(site, search());
  const row = await store.import(
    site,
    visits((guide) => `/guides/${guide}`),
  );
  const missed = missedJoins(store.db, site, row)!;
  expect(missed.sentence).toBe('5 of 6 landing pages differ from search pages only by the slash at the end.');
  expect(missed.rules).toEqual({ ...site.rules, trailingSlash: 'with' });
  expect(pageKeyMaker(HOME, missed.rules)(`${HOME}/guides/knots`)).toBe(`${HOME}/guides/knots/`);
  await saveRules(store.db, site, missed.rules);
  expect(missedJoins(store.db, { ...site, rules: missed.rules }, row)).toBeNull();
});

test('it also works the other way round, for other spellings, and is silent where it would be wrong', async () => {
  const landing = await store.import(
    site,
    visits((guide) => `/Guides/${guide}/index.html`),
  );
  // Nothing to compare with yet.
  expect(missedJoins(store.db, site, landing)).toBeNull();
  const row = await store.import(site, search());
  expect(missedJoins(store.db, site, row)).toMatchObject({
    sentence:
      '5 of 5 search pages differ from landing pages only by capital and small letters, and the index file.',
    rules: { ignoreCase: true, dropIndexFiles: true, trailingSlash: 'as-written' },
  });
  const other = await store.import(
    site,
    visits((guide) => `/blog/${guide}-x/`),
  );
  expect(missedJoins(store.db, site, other)).toBeNull();
  const matching = await store.import(
    site,
    visits((guide) => `/guides/${guide}/`),
  );
  expect(missedJoins(store.db, site, matching)).toBeNull();
});
