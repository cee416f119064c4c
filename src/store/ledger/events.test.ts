import { changedEventFields, newEventSchema } from '../../core/model/event';
import { TempStore } from '../../../tests/support/tempDb';
import {
  addEvent,
  addEvents,
  eventHistoryOf,
  findEvent,
  listEvents,
  restoreEvent,
  saveEvent,
} from './events';

let store: TempStore;
beforeEach(() => {
  store = new TempStore();
});
afterEach(() => store.close());

const INPUT = { name: 'Clover update', kind: 'algorithm-update', firstDay: '2026-09-06', lastDay: null };

test('every edit of an event is kept, and can be taken back', async () => {
  const site = await store.site();
  const noted = await addEvent(store.db, site.id, newEventSchema.parse(INPUT));
  await saveEvent(
    store.db,
    noted.id,
    newEventSchema.parse({ ...INPUT, lastDay: '2026-09-09', group: '/guides/' }),
  );
  const now = findEvent(store.db, noted.id)!;
  const [last, ...others] = eventHistoryOf(store.db, noted.id);
  expect([others, changedEventFields(last!.was, now)]).toEqual([[], ['last day', 'pages']]);
  expect(await restoreEvent(store.db, noted.id, last!.id)).toBe(true);
  expect(findEvent(store.db, noted.id)).toEqual(noted);
  expect(eventHistoryOf(store.db, noted.id)).toHaveLength(2);
  expect(await restoreEvent(store.db, noted.id, 999)).toBe(false);
});

test('of several events those that are noted already are left out, within one file too', async () => {
  const site = await store.site();
  const events = [INPUT, { ...INPUT, firstDay: '2026-10-01' }, INPUT].map((one) => newEventSchema.parse(one));
  expect(await addEvents(store.db, site.id, events)).toBe(2);
  expect(await addEvents(store.db, site.id, events)).toBe(0);
  expect(listEvents(store.db, site.id)).toHaveLength(2);
});
