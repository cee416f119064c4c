import { dayOfInstant, daysWithoutBackup } from '../core/backup/retention';
import { backupFolder, dailyBackups } from '../store/dailyBackups';
import { prepared, type Db } from '../store/database';
import { timestamp } from '../store/write';

/** For how many days nothing was backed up, where that is too long; null where it is not, or backups are off. */
export function daysUnsaved(db: Db): number | null {
  if (backupFolder() === null) return null;
  const [newest] = dailyBackups();
  const first = prepared<[], string | null>(db, 'SELECT min(created_at) FROM site').pluck().get();
  const now = timestamp();
  return daysWithoutBackup(newest?.day ?? null, dayOfInstant(first ?? now), dayOfInstant(now));
}
