import { rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { isoDay } from '../../core/calendar/day';
import { backupFolder, dailyBackups } from '../../store/dailyBackups';
import { assertReadable, queueState, type QueueState } from '../../store/queueState';
import { replicaState } from '../../store/replica';
import { fileOf, type Db } from '../../store/database';

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
} & QueueState;

/** Looks after everything that can go wrong by itself. Throws what the system says where the folder of the data cannot be written to. */
export function health(db: Db, backupFailed: string | null): Health {
  refuseUnwritable(db);
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
    ...queueState(db),
  };
}

/** A database cannot be asked whether a write would fit on the disk: a page beside it is written, as it would. */
function refuseUnwritable(db: Db): void {
  assertReadable(db);
  const probe = path.join(path.dirname(fileOf(db)), 'probe.tmp');
  try {
    writeFileSync(probe, Buffer.alloc(4096), { mode: 0o600, flush: true });
  } finally {
    rmSync(probe, { force: true });
  }
}
