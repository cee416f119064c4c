import type { Db } from '../../store/database';
import { isEnding, startThread } from '../thread';
import { checkpointEvery } from '../../store/database';

/** Pages after which a connection copies the log by itself, as SQLite does unless it is told otherwise. */
const USUAL_PAGES = 1000;

/**
 * Has the write-ahead log copied into the database by a thread of its own, no longer by whoever writes over this connection. Should the
 * thread end, it is as before.
 */
export function checkpointsElsewhere(db: Db): void {
  const copiesItself = (pages: number) => checkpointEvery(db, pages);
  const thread = startThread('checkpointsThread', { resourceLimits: { maxOldGenerationSizeMb: 64 } });
  thread.unref();
  copiesItself(0);
  thread.once('error', (error) =>
    console.error('The write-ahead log could not be copied by a thread of its own:', error),
  );
  thread.once('exit', () => {
    if (!isEnding()) copiesItself(USUAL_PAGES);
  });
}
