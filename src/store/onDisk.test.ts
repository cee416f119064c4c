import { TempStore } from '../../tests/support/tempDb';
import { Flushes } from './onDisk';
import { write } from './write';

/** Flushes that are ended by hand. */
function byHand() {
  const ends: (() => void)[] = [];
  const flushes = new Flushes(() => new Promise((resolve) => ends.push(resolve)));
  const done: string[] = [];
  const ask = (name: string) => void flushes.flushed().then(() => done.push(name));
  const settled = () => new Promise((resolve) => setImmediate(resolve));
  return { ends, done, ask, settled };
}

test('those who ask while a flush is under way share the next one, and none is told too early', async () => {
  const { ends, done, ask, settled } = byHand();
  for (const name of ['first', 'second', 'third']) ask(name);
  expect(ends).toHaveLength(1);
  ends[0]!();
  await settled();
  expect(done).toEqual(['first']);
  expect(ends).toHaveLength(2);
  ask('fourth');
  ends[1]!();
  await settled();
  expect(done).toEqual(['first', 'second', 'third']);
  ends[2]!();
  await settled();
  expect(done).toEqual(['first', 'second', 'third', 'fourth']);
});

test('a flush that fails is told to those who waited for it, and the next is tried anew', async () => {
  let tries = 0;
  const flushes = new Flushes(() => (++tries === 1 ? Promise.reject(new Error('EIO')) : Promise.resolve()));
  const first = flushes.flushed();
  const second = flushes.flushed();
  await expect(first).rejects.toThrow('EIO');
  await expect(second).resolves.toBeUndefined();
});

test('a connection that waits for the disk does so again after a write, also one that failed', async () => {
  const store = new TempStore();
  store.db.$client.pragma('synchronous = FULL');
  const synchronous = () => store.db.$client.pragma('synchronous', { simple: true });
  const before = synchronous();
  let within: unknown;
  await write(store.db, () => {
    within = synchronous();
  });
  expect([before, within, synchronous()]).toEqual([2, 1, 2]);
  await expect(
    write(store.db, () => {
      throw new Error('not today');
    }),
  ).rejects.toThrow('not today');
  expect(synchronous()).toBe(2);
  store.close();
});
