import path from 'node:path';
import { day, TempStore } from '../../../tests/support/tempDb';
import { dayOfInstant } from '@/core/backup/retention';
import { makeDailyBackup } from '@/store/dailyBackups';
import { timestamp } from '@/store/write';
import { daysUnsaved } from './missedBackups';

let store: TempStore;
beforeEach(async () => {
  store = new TempStore();
  await store.site();
});
afterEach(() => {
  store.close();
  delete process.env.TALLY_BACKUPS;
});

test('one of a day to come, made while a clock was ahead, stands for no other day', async () => {
  process.env.TALLY_BACKUPS = path.join(store.dir, 'backups');
  store.db.$client.prepare("UPDATE site SET created_at = '2026-01-01T00:00:00Z'").run();
  await makeDailyBackup(day('2090-01-01'), store.dir);
  expect(daysUnsaved(store.db)).toBeGreaterThan(300);
  await makeDailyBackup(dayOfInstant(timestamp()), store.dir);
  expect(daysUnsaved(store.db)).toBeNull();
});
