import { open } from 'node:fs/promises';
import type { Db } from './database';

/* Flushes commits to disk without blocking the thread that committed: a disk may take a second. */

/** Flushes on request; requests during a flush share the next one. */
export class Flushes {
  private running: Promise<void> | null = null;
  private next: Promise<void> | null = null;

  constructor(private readonly flush: () => Promise<void>) {}

  /** Resolves once everything that was written before this call is flushed. Rejects where it could not be. */
  flushed(): Promise<void> {
    if (!this.running) {
      this.running = this.flush().finally(() => {
        this.running = null;
      });
      return this.running;
    }
    // The one under way may have begun before what was written last.
    this.next ??= this.running
      .catch(() => undefined)
      .then(() => {
        this.next = null;
        return this.flushed();
      });
    return this.next;
  }
}

const byFile = new Map<string, Flushes>();

/** Resolves once everything that was committed to a database before this call is on the disk. */
export function onDisk({ $client: { name } }: Db): Promise<void> {
  const known = byFile.get(name) ?? new Flushes(() => flushLog(`${name}-wal`));
  byFile.set(name, known);
  return known.flushed();
}

/**
 * Flushes a write-ahead log. Without one, all of it is in the database, which was flushed when
 * copied.
 */
async function flushLog(file: string): Promise<void> {
  const log = await open(file, 'r+').catch((error: NodeJS.ErrnoException) => {
    if (error.code === 'ENOENT') return null;
    throw error;
  });
  try {
    await log?.datasync();
  } finally {
    await log?.close();
  }
}
