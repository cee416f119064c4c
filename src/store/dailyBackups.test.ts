import { existsSync, mkdirSync, readdirSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { TempStore, day } from '../../tests/support/tempDb';
import { backupFolder, dailyBackups, makeDailyBackup, retentionTold } from './dailyBackups';

let store: TempStore;
beforeEach(async () => {
  store = new TempStore();
  await store.site();
});
afterEach(() => {
  store.close();
  delete process.env.TALLY_BACKUPS;
  delete process.env.TALLY_BACKUPS_KEPT;
});

test('a backup a day, of which those are dropped that are not kept, and nothing else in the folder', async () => {
  process.env.TALLY_BACKUPS_KEPT = '2,0,1';
  const folder = backupFolder(store.dir)!;
  expect(folder).toBe(path.join(store.dir, 'backups'));
  for (const iso of ['2026-10-30', '2026-11-24', '2026-11-25', '2026-11-26', '2026-11-27'])
    await makeDailyBackup(day(iso), store.dir);
  writeFileSync(path.join(folder, 'mine.zip'), 'x');
  writeFileSync(path.join(folder, 'tally-2026-02-30.zip'), 'x');
  await makeDailyBackup(day('2026-11-27'), store.dir);
  expect(readdirSync(folder).sort()).toEqual([
    ...['mine.zip', 'tally-2026-02-30.zip', 'tally-2026-11-26.zip', 'tally-2026-11-27.zip'],
  ]);
  expect(dailyBackups(folder).map((one) => one.day)).toEqual([day('2026-11-27'), day('2026-11-26')]);
});

test('backups are no part of backups', async () => {
  const one = (await makeDailyBackup(day('2026-11-26'), store.dir))!;
  const two = (await makeDailyBackup(day('2026-11-27'), store.dir))!;
  expect(Math.abs(two.bytes - one.bytes)).toBeLessThan(one.bytes / 10);
});

test('another folder, none, and numbers that are none', async () => {
  const elsewhere = path.join(store.dir, 'elsewhere');
  mkdirSync(elsewhere);
  process.env.TALLY_BACKUPS = elsewhere;
  const made = (await makeDailyBackup(day('2026-11-27'), store.dir))!;
  expect(path.dirname(made.file)).toBe(elsewhere);
  process.env.TALLY_BACKUPS = 'off';
  expect(await makeDailyBackup(day('2026-11-28'), store.dir)).toBeNull();
  expect(dailyBackups()).toEqual([]);
  expect(existsSync(path.join(store.dir, 'backups'))).toBe(false);
  expect(retentionTold('14,8,24')).toEqual({ days: 14, weeks: 8, months: 24 });
  for (const wrong of ['7', '7,4', 'a,b,c', '7,4,-1', '7,4,1.5', '7,4,12,1'])
    expect(() => retentionTold(wrong)).toThrow('as in 7,4,12');
});
