import { prepared, type Db } from './database';

/** How feeds and long work do, for the health report. */
export type QueueState = {
  readonly lastFeed: { readonly fetchedAt: string | null; readonly failing: number };
  /** Imports and site archives that wait or run. */
  readonly queue: { readonly imports: number; readonly sites: number };
};

export function queueState(db: Db): QueueState {
  const value = <T>(sql: string) => prepared<[], T>(db, sql).pluck().get()!;
  return {
    lastFeed: {
      fetchedAt: value<string | null>('SELECT max(last_fetched_at) FROM feed WHERE deleted_at IS NULL'),
      failing: value('SELECT count(*) FROM feed WHERE deleted_at IS NULL AND failure IS NOT NULL'),
    },
    queue: {
      imports: value("SELECT count(*) FROM import WHERE state IN ('queued', 'running')"),
      sites: value("SELECT count(*) FROM site_import WHERE state IN ('queued', 'running')"),
    },
  };
}

/** Asks the database for anything at all. Throws if it can't be read. */
export function assertReadable(db: Db): void {
  prepared(db, 'SELECT 1').get();
}
