import { addDays, isoDay } from '../../core/calendar/day';
import { newChangeSchema } from '../../core/model/change';
import type { PageEvidence } from '../../core/model/evidence';
import type { Site } from '../../core/model/site';
import { TempStore } from '../../../tests/support/tempDb';
import { pagesForAddresses } from '../../store/addresses/pages';
import { today } from '../../store/clock';
import { addSighting } from '../../store/evidence/sightings';
import { keepSnapshot } from '../../store/evidence/snapshots';
import { addChange, recordStep } from '../../store/ledger/changes';
import { findChange } from '../../store/ledger/findChanges';
import { write } from '../../store/write';
import { pageTitles, recordIfSeen, seenOldOn } from './titleChecks';

const PAGE: PageEvidence = {
  ...{ status: 200, finalAddress: 'https://www.quillow-bees.example/a/', title: 'Old', description: null },
  ...{ canonical: null, robots: [], headings: [], structuredData: [], words: 0, text: '', links: [] },
  ...{ images: 0, imagesWithoutAlt: [], encoding: 'UTF-8', misfits: 0 },
};
const NEW = { ...PAGE, title: 'New' };
const ago = (days: number) => addDays(today(), -days);

let store: TempStore;
let site: Site;
let a: number;
let b: number;
beforeEach(async () => {
  store = new TempStore();
  site = await store.site();
  [a, b] = (await write(store.db, () => pagesForAddresses(store.db, site, ['/a/', '/b/']))).map(
    ({ id }) => id,
  ) as [number, number];
});
afterEach(() => store.close());

const keep = (page: number, evidence: PageEvidence, days: number) =>
  keepSnapshot(store.db, site.id, page, evidence, ago(days));
const log = (over: object = {}) =>
  addChange(
    store.db,
    site,
    newChangeSchema.parse({
      ...{ title: 'Shorter title', kind: 'title-rewrite', day: isoDay(ago(6)), pages: ['/a/'] },
      ...{ oldText: 'Old', newText: 'New', ...over },
    }),
  );

describe('titles on the page and in the results', () => {
  const page = () => ({ id: a, address: 'https://www.quillow-bees.example/a/' });
  const see = (title: string, days: number, since: number | null = null) =>
    addSighting(store.db, a, { title, day: ago(days), since: since === null ? null : ago(since) });

  test('which of the two is old', async () => {
    await keep(a, PAGE, 9);
    await log();
    expect(pageTitles(store.db, page()).check.state).toBe('page-old');
    await keep(a, NEW, 5);
    await see('Old', 4);
    expect(pageTitles(store.db, page()).check.state).toBe('results-old');
    await see('New', 2);
    expect(pageTitles(store.db, page()).check.state).toBe('same');
  });

  test('results that show another title than a crawled change gave are known by their day', async () => {
    const { id } = await log();
    const seenOld = () => seenOldOn(store.db, findChange(store.db, id)!);
    await see('Old', 4);
    expect(seenOld()).toBeNull();
    await recordStep(store.db, id, { step: 'crawled', day: isoDay(ago(5)) });
    expect(seenOld()).toBe(ago(4));
    await see('New', 2);
    expect(seenOld()).toBeNull();
  });

  test('an undo means the title that it brings back', async () => {
    const { id } = await log({ day: isoDay(ago(20)) });
    await log({ kind: 'undo', followsId: id, oldText: 'New', newText: 'Old' });
    await keep(a, NEW, 1);
    expect(pageTitles(store.db, page())).toMatchObject({ meant: 'Old', check: { state: 'page-old' } });
  });

  test('a change was seen once all its pages show what it gave them', async () => {
    const parts = [
      { kind: 'title-rewrite', page: '/a/', newText: 'New' },
      { kind: 'title-rewrite', page: '/b/', newText: 'New b' },
    ];
    const change = await log({ pages: ['/a/', '/b/'], oldText: null, newText: null, parts });
    await see('New', 3);
    expect(await recordIfSeen(store.db, change)).toBe(false);
    await addSighting(store.db, b, { title: 'New b', day: ago(1), since: ago(2) });
    expect(await recordIfSeen(store.db, change)).toBe(true);
    const rows = store.rows('change_step') as { step: string; day: number }[];
    expect(rows).toEqual([expect.objectContaining({ step: 'seen-in-results', day: ago(2) })]);
  });
});
