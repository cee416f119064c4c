import { existsSync, mkdirSync, readdirSync, rmSync, statSync } from 'node:fs';
import path from 'node:path';
import { z } from 'zod';
import { isoDay, parseIsoDay, type Day } from '../core/calendar/day';
import { keptBackups, USUAL_RETENTION, type Retention } from '../core/backup/retention';
import { makeBackup } from './backup';
import { dataDir } from './paths';
import { DatabaseRefused } from './refused';

/*
 * Backups that are made by themselves, a file for each day, of which a number is kept.
 */

/** A backup that lies in the folder of daily ones. */
export type DailyBackup = { readonly day: Day; readonly file: string; readonly bytes: number };

const NAME = /^tally-(\d{4}-\d\d-\d\d)\.zip$/;
const retentionSchema = z
  .tuple([z.coerce.number(), z.coerce.number(), z.coerce.number()])
  .pipe(z.tuple([z.int().min(0).max(366), z.int().min(0).max(520), z.int().min(0).max(240)]));

/**
 * The folder of daily backups: TALLY_BACKUPS, or `backups` in the data folder; null for `off`. On
 * another disk they survive the loss of this one.
 */
export function backupFolder(dir = dataDir()): string | null {
  const told = process.env.TALLY_BACKUPS;
  if (told === 'off') return null;
  return path.resolve(/* turbopackIgnore: true */ told || path.join(dir, 'backups'));
}

/**
 * How many days, weeks and months are kept: TALLY_BACKUPS_KEPT, as in `7,4,12`. Throws
 * DatabaseRefused.
 */
export function retentionTold(told = process.env.TALLY_BACKUPS_KEPT): Retention {
  if (!told) return USUAL_RETENTION;
  const parsed = retentionSchema.safeParse(told.split(','));
  if (!parsed.success)
    throw new DatabaseRefused(
      `TALLY_BACKUPS_KEPT says how many days, weeks and months are kept, as in 7,4,12, and is “${told}”.`,
    );
  const [days, weeks, months] = parsed.data;
  return { days, weeks, months };
}

/** The daily backups that there are, the newest first. */
export function dailyBackups(folder = backupFolder()): DailyBackup[] {
  if (folder === null || !existsSync(/* turbopackIgnore: true */ folder)) return [];
  return readdirSync(/* turbopackIgnore: true */ folder)
    .flatMap((name) => {
      const day = parseIsoDay(NAME.exec(name)?.[1] ?? '');
      const file = path.join(/* turbopackIgnore: true */ folder, name);
      return day === null ? [] : [{ day, file, bytes: statSync(/* turbopackIgnore: true */ file).size }];
    })
    .sort((a, b) => b.day - a.day);
}

/** Makes the backup of a day and removes expired ones. Returns it; null if backups are off. */
export async function makeDailyBackup(day: Day, dir = dataDir()): Promise<DailyBackup | null> {
  const folder = backupFolder(dir);
  if (folder === null) return null;
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  const file = path.join(folder, `tally-${isoDay(day)}.zip`);
  await makeBackup(dir, file);
  const all = dailyBackups(folder);
  const kept = keptBackups(
    all.map((one) => one.day),
    retentionTold(),
  );
  for (const one of all) if (!kept.has(one.day)) rmSync(one.file, { force: true });
  return { day, file, bytes: statSync(/* turbopackIgnore: true */ file).size };
}
