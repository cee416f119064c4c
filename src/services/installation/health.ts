import { rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { isoDay } from '../../core/calendar/day';
import { backupFolder, dailyBackups } from '../../store/dailyBackups';
import { replicaState } from '../../store/replica';
import { prepared, type Db, fileOf } from '../../store/database';

/** How the program does, as somebody who watches over it asks. */
export type Health = {
  readonly status: 'ok';
  readonly database: 'writable';
  readonly lastBackup: {
    readonly day: string | null;
    readonly bytes: number | null;
    readonly failure: string | null;
    readonly off: boolean;
  };
  /** Whether the copying to another place runs; null where none is told. */
  readonly replica: 'running' | 'stopped' | null;
  readonly lastFeed: { readonly fetchedAt: string | null; readonly failing: number };
  readonly queue: { readonly imports: number; readonly sites: number };
};

/** Looks after everything that can go wrong by itself. Throws what the system says where the folder of the data cannot be written to. */
export function health(db: Db, backupFailed: string | null): Health {
  refuseUnwritable(db);
  const count = (sql: string) => prepared<[], number>(db, sql).pluck().get()!;
  const [newest] = dailyBackups();
  return {
    status: 'ok',
    database: 'writable',
    lastBackup: {
      day: newest ? isoDay(newest.day) : null,
      bytes: newest?.bytes ?? null,
      failure: backupFailed,
      off: backupFolder() === null,
    },
    replica: replicaState(),
    lastFeed: {
      fetchedAt:
        prepared<[], string | null>(db, 'SELECT max(last_fetched_at) FROM feed WHERE deleted_at IS NULL')
          .pluck()
          .get() ?? null,
      failing: count('SELECT count(*) FROM feed WHERE deleted_at IS NULL AND failure IS NOT NULL'),
    },
    queue: {
      imports: count("SELECT count(*) FROM import WHERE state IN ('queued', 'running')"),
      sites: count("SELECT count(*) FROM site_import WHERE state IN ('queued', 'running')"),
    },
  };
}

/** A database cannot be asked whether a write would fit on the disk: a page beside it is written, as it would. */
function refuseUnwritable(db: Db): void {
  prepared(db, 'SELECT 1').get();
  const probe = path.join(path.dirname(fileOf(db)), 'probe.tmp');
  try {
    writeFileSync(probe, Buffer.alloc(4096), { mode: 0o600, flush: true });
  } finally {
    rmSync(probe, { force: true });
  }
}
