import { EventEmitter } from 'node:events';
import { addDays, isoDay } from '../../core/calendar/day';
import { newChangeSchema } from '../../core/model/change';
import { day, TempStore } from '../../../tests/support/tempDb';
import { addChange, setChangeDeleted } from '../../store/ledger/changes';
import { answersFor, answerTo, type Question } from './answers';
import { askReadings, type ask } from './ask';
import { QuestionThread, type ThreadLike } from './thread';

let store: TempStore;
beforeEach(() => {
  store = new TempStore();
});
afterEach(() => store.close());

/** A thread that answers on this one, a turn later, as the real one does. */
class FakeThread extends EventEmitter implements ThreadLike {
  static started = 0;
  private readonly answers = answersFor(store.db);
  readonly asked: Question[] = [];

  constructor() {
    super();
    FakeThread.started++;
  }

  postMessage(question: Question): void {
    this.asked.push(question);
    setImmediate(() => void answerTo(this.answers, question).then((answer) => this.emit('message', answer)));
  }

  unref(): void {}
}

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

test('each question gets its own answer, however many are under way', async () => {
  const siteId = await logged(3);
  const thread = new QuestionThread(() => new FakeThread());
  const [ledger, none, doubted] = await Promise.all([
    thread.ask('ledger', { siteId }),
    thread.ask('reading', { changeId: 999, wish: {} }),
    thread.ask('doubtedEvents', { siteId }),
  ]);
  expect(ledger.map(({ title }) => title)).toEqual(['Change 2', 'Change 1', 'Change 0']);
  expect(none).toBeNull();
  expect(doubted).toEqual({});
});

test('a question that goes wrong is answered with what went wrong, and the thread goes on', async () => {
  const siteId = await logged(1);
  const thread = new QuestionThread(() => new FakeThread());
  const wish = { windowDays: -3 };
  await expect(thread.ask('beginList', { siteId, wish })).rejects.toThrow(/window/i);
  expect(await thread.ask('ledger', { siteId })).toHaveLength(1);
});

test('whoever waits on a thread that dies is told, and the next question starts another', async () => {
  const siteId = await logged(1);
  const threads: FakeThread[] = [];
  const thread = new QuestionThread(() => {
    threads.push(new FakeThread());
    return threads.at(-1)!;
  });
  const waiting = thread.ask('ledger', { siteId });
  threads[0]!.emit('exit', 1);
  await expect(waiting).rejects.toThrow('ended with code 1');
  expect(await thread.ask('ledger', { siteId })).toHaveLength(1);
  // The late end of the first does nothing to the second.
  threads[0]!.emit('error', new Error('late'));
  expect(await thread.ask('ledger', { siteId })).toHaveLength(1);
  expect(threads).toHaveLength(2);
});

test('a list of readings stays as it was begun, although changes are logged and deleted meanwhile', async () => {
  const siteId = await logged(230);
  const thread = new QuestionThread(() => new FakeThread());
  const asking: typeof ask = (name, asked) => thread.ask(name, asked);
  const titles: string[] = [];
  for await (const some of askReadings(siteId, {}, asking)) {
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
  const fake = new FakeThread();
  const thread = new QuestionThread(() => fake);
  const asking: typeof ask = (name, asked) => thread.ask(name, asked);
  for await (const some of askReadings(siteId, {}, asking)) {
    expect(some).toHaveLength(100);
    break;
  }
  expect(fake.asked.map(({ name }) => name)).toEqual(['beginList', 'partOfList', 'endList']);
  expect(await thread.ask('partOfList', { list: 1, from: 0, to: 5 })).toEqual({ readings: [], more: false });
});
