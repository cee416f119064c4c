import type { Db } from '../../store/database';
import { isEnding, startThread } from '../thread';

/** Pages after which a connection copies the log by itself, as SQLite does unless it is told otherwise. */
const USUAL_PAGES = 1000;

/**
 * Has the write-ahead log copied into the database by a thread of its own, no longer by whoever writes over this connection. Should the
 * thread end, it is as before.
 */
export function checkpointsElsewhere(db: Db): void {
  const copiesItself = (pages: number) => db.$client.pragma(`wal_autocheckpoint = ${pages}`);
  const thread = startThread('checkpointsThread', { resourceLimits: { maxOldGenerationSizeMb: 64 } });
  thread.unref();
  copiesItself(0);
  const back = (error: unknown) => {
    if (isEnding()) return;
    copiesItself(USUAL_PAGES);
    console.error('The thread that copies the write-ahead log ended:', error);
  };
  thread.once('error', back);
  thread.once('exit', back);
}
