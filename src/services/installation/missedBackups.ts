import { dayOfInstant, daysWithoutBackup } from '../../core/backup/retention';
import { backupFolder, dailyBackups } from '../../store/dailyBackups';
import type { Db } from '../../store/database';
import { firstSiteAddedAt } from '../../store/sites';
import { timestamp } from '../../store/write';

/** For how many days nothing was backed up, where that is too long; null where it is not, or backups are off. */
export function daysUnsaved(db: Db): number | null {
  if (backupFolder() === null) return null;
  const now = timestamp();
  // A clock that was ahead for a while left one of a day to come.
  const newest = dailyBackups().find(({ day }) => day <= dayOfInstant(now));
  return daysWithoutBackup(newest?.day ?? null, dayOfInstant(firstSiteAddedAt(db) ?? now), dayOfInstant(now));
}
