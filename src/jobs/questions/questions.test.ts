import { unpacked } from '../../core/lists/packed';
import { addDays, isoDay } from '../../core/calendar/day';
import { newChangeSchema } from '../../core/model/change';
import { FakeThread } from '../../../tests/support/fakeThread';
import { day, TempStore } from '../../../tests/support/tempDb';
import { addChange, setChangeDeleted } from '../../store/ledger/changes';
import { askReadings } from './ask';
import { Generations } from './generations';
import { BEHIND, QuestionThread } from './thread';

let store: TempStore;
beforeEach(() => {
  store = new TempStore();
});
afterEach(() => {
  FakeThread.endAll();
  store.close();
});

const threadOf = (siteId: number) => new QuestionThread(() => new FakeThread(store.file, siteId));
const generationsOf = (siteId: number) =>
  new Generations(
    siteId,
    () => new FakeThread(store.file, siteId),
    (work) => work(),
  );

async function logged(count: number): Promise<number> {
  const site = await store.site();
  for (let i = 0; i < count; i++) {
    const on = isoDay(addDays(day('2026-01-01'), i));
    await addChange(
      store.db,
      site,
      newChangeSchema.parse({ title: `Change ${i}`, kind: 'title', day: on, pages: ['/a/'] }),
    );
  }
  return site.id;
}

async function ledgerOf(thread: QuestionThread, siteId: number) {
  const ledger = await thread.ask('ledger', { siteId });
  if (ledger === BEHIND) throw new Error('The ledger waits for nothing.');
  return unpacked(ledger);
}

test('each question gets its own answer, however many are under way', async () => {
  const siteId = await logged(3);
  const site = generationsOf(siteId);
  const [ledger, none, doubted] = await Promise.all([
    site.ask('ledger', { siteId }, null),
    site.ask('reading', { siteId, changeId: 999, wish: {} }, null),
    site.ask('doubtedEvents', { siteId }, null),
  ]);
  expect(unpacked(ledger).map(({ title }) => title)).toEqual(['Change 2', 'Change 1', 'Change 0']);
  expect(none).toBeNull();
  expect(doubted).toEqual({});
});

test('a question that goes wrong is answered with what went wrong, and the thread goes on', async () => {
  const siteId = await logged(1);
  const thread = threadOf(siteId);
  const wish = { windowDays: -3 };
  await expect(thread.ask('beginList', { siteId, wish })).rejects.toThrow(/window/i);
  expect(await ledgerOf(thread, siteId)).toHaveLength(1);
});

test('whoever waits on a thread that dies is told, and the next question starts another', async () => {
  const siteId = await logged(1);
  const thread = threadOf(siteId);
  const waiting = thread.ask('ledger', { siteId });
  FakeThread.all[0]!.emit('exit', 1);
  await expect(waiting).rejects.toThrow('ended with code 1');
  expect(await ledgerOf(thread, siteId)).toHaveLength(1);
  // The late end of the first does nothing to the second.
  FakeThread.all[0]!.emit('error', new Error('late'));
  expect(await ledgerOf(thread, siteId)).toHaveLength(1);
  expect(FakeThread.all).toHaveLength(2);
});

test('a list of readings stays as it was begun, although changes are logged and deleted meanwhile', async () => {
  const siteId = await logged(230);
  const titles: string[] = [];
  for await (const some of askReadings(siteId, {}, null, generationsOf(siteId))) {
    if (titles.length === 0) {
      await setChangeDeleted(store.db, some[0]!.change.id, true);
      await setChangeDeleted(store.db, some[99]!.change.id, true);
    }
    titles.push(...some.map(({ change }) => change.title));
  }
  expect(titles).toEqual(Array.from({ length: 230 }, (_, i) => `Change ${229 - i}`));
});

test('a list that is left in the middle is not kept', async () => {
  const siteId = await logged(120);
  for await (const some of askReadings(siteId, {}, null, generationsOf(siteId))) {
    expect(some).toHaveLength(100);
    break;
  }
  const [thread] = FakeThread.all;
  expect(thread!.asked.map(({ name }) => name)).toEqual(['beginList', 'partOfList', 'endList']);
  const rest = await threadOf(siteId).ask('partOfList', { siteId, list: 1, from: 0, to: 5 });
  expect(rest).toEqual({ readings: [], more: false });
});
