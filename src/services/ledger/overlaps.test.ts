import { addDays, isoDay } from '../../core/calendar/day';
import { newChangeSchema } from '../../core/model/change';
import { day, TempStore } from '../../../tests/support/tempDb';
import { addChange } from '../../store/ledger/changes';
import { overlapWarnings } from './overlaps';

let store: TempStore;
beforeEach(() => {
  store = new TempStore();
});
afterEach(() => store.close());

test('a change whose after span is not over stands in the way of another on its pages', async () => {
  const site = await store.site();
  const made = day('2026-04-10');
  const log = (over: object) =>
    addChange(
      store.db,
      site,
      newChangeSchema.parse({
        title: 'Shorter title',
        kind: 'title-rewrite',
        day: isoDay(made),
        pages: ['/a/'],
        ...over,
      }),
    );
  const { id } = await log({});
  const warn = (pages: string[], days: number, own: number | null = null) =>
    overlapWarnings(store.db, site, own, pages, addDays(made, days));
  // Three days are left out, then twenty-eight are read: up to 10 May.
  expect(warn(['/a/'], 5)).toEqual([
    '“Shorter title” on /a/ is read until 10 May 2026: the two can no longer be told apart. Wait until then, or log them as one.',
  ]);
  expect(warn(['http://quillow-bees.example/a/'], 30)).toHaveLength(1);
  expect(warn(['/a/'], 31)).toEqual([]);
  expect(warn(['/a/'], -1)).toEqual([]);
  expect(warn(['/b/', 'mailto:x@y.example', ''], 5)).toEqual([]);
  expect(warn(['/a/'], 5, id)).toEqual([]);
  // What is only planned has not happened, and what was crawled late is read for longer.
  await log({ title: 'Plan', planned: true });
  expect(warn(['/a/'], 5)).toHaveLength(1);
  await log({ title: 'Many', pages: ['/a/', '/b/', '/c/'] });
  expect(warn(['/b/', '/c/'], 5)[0]).toMatch(/“Many” on 2 of these pages/);
});
