import { statSync } from 'node:fs';
import { TempStore } from '../../../tests/support/tempDb';
import { checkpoint } from './checkpoint';

test('a log that has become long is copied into the database, a short one is left', () => {
  const store = new TempStore();
  const { $client } = store.db;
  $client.pragma('journal_mode = WAL');
  $client.pragma('wal_autocheckpoint = 0');
  $client.exec('CREATE TABLE much (text TEXT)');
  expect(checkpoint(store.db)).toBe(false);
  const before = statSync(store.file).size;
  const insert = $client.prepare('INSERT INTO much VALUES (?)');
  for (let n = 0; n < 60; n++) insert.run('x'.repeat(100_000));
  expect(statSync(store.file).size).toBe(before);
  expect(checkpoint(store.db)).toBe(true);
  expect(statSync(store.file).size).toBeGreaterThan(before + 5_000_000);
  store.close();
});
