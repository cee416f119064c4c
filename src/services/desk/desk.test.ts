import { addDays, isoDay, type Day } from '../../core/calendar/day';
import { newChangeSchema } from '../../core/model/change';
import type { Site } from '../../core/model/site';
import { TempStore } from '../../../tests/support/tempDb';
import { today } from '../../store/clock';
import { addChange, recordStep } from '../../store/ledger/changes';
import { putOff } from '../../store/ledger/putOff';
import { desk } from './desk';
import { SiteContext } from '../site/siteContext';

let store: TempStore;
let site: Site;
beforeEach(async () => {
  store = new TempStore();
  site = await store.site();
});
afterEach(() => store.close());

const on = (offset: number): string => isoDay(addDays(today(), offset) as Day);
const log = (title: string, offset: number, over: object = {}) =>
  addChange(
    store.db,
    site,
    newChangeSchema.parse({ title, kind: 'title-rewrite', day: on(offset), pages: ['/a/'], ...over }),
  );
const lines = () => desk(new SiteContext(store.db, site), new Map());

/** Figures of two pages up to some days ago; the second halves its clicks in the last week. */
async function figures(daysAgo: number): Promise<void> {
  const rows = ['date,page,clicks,impressions,position'];
  for (let i = 90; i >= daysAgo; i--)
    rows.push(`${on(-i)},/a/,20,100,4`, `${on(-i)},/b/,${i < daysAgo + 7 ? 10 : 40},400,4`);
  await store.import(site, rows.join('\n'));
}

test('an empty site has nothing due', () => {
  expect(lines()).toEqual([]);
});

test('what is planned for today, to be reviewed, or just complete is due, and what lies ahead is not', async () => {
  await figures(1);
  await log('Planned for today', 0, { planned: true });
  await log('Planned for later', 9, { planned: true });
  const review = { metric: 'clicks', direction: 'up', amount: 0.1, reviewDay: on(-1) };
  await log('To be reviewed', -50, { expectation: review });
  await log('Just complete', -36);
  await log('Too young', -5);
  const due = lines().map((line) => JSON.stringify(line));
  for (const title of ['Planned for today', 'To be reviewed', 'Just complete'])
    expect(due.filter((line) => line.includes(title))).toHaveLength(1);
  for (const title of ['Planned for later', 'Too young'])
    expect(due.filter((line) => line.includes(title))).toHaveLength(0);
});

test('a page that fell on the week before is due until it is put off', async () => {
  await figures(1);
  const [fallen, ...others] = lines();
  expect(JSON.stringify(fallen)).toContain('/b/');
  expect(others).toEqual([]);
  await putOff(store.db, site.id, fallen!.key, addDays(today(), 7));
  expect(lines()).toEqual([]);
  await putOff(store.db, site.id, fallen!.key, null);
  expect(lines()).toHaveLength(1);
});

test('a reindex request that was not crawled is due after some days, and gone once it was', async () => {
  const { id } = await log('Asked for', -20);
  await recordStep(store.db, id, { step: 'reindex-requested', day: on(-10) });
  const waiting = () => lines().filter((line) => JSON.stringify(line).includes('Asked for'));
  expect(waiting()).toHaveLength(1);
  await recordStep(store.db, id, { step: 'crawled', day: on(-1) });
  expect(waiting()).toEqual([]);
});
