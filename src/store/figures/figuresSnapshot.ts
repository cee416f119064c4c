import { connect, type Db } from '../database';

/* The figures that are shown, while newer ones are still being worked in. */

const pins = new WeakMap<Db, Db>();

/** The snapshot connection if one is open for `db`, otherwise `db` itself. */
export function shown(db: Db): Db {
  return pins.get(db) ?? db;
}

/**
 * Pins the figures as of now: a second connection holds one read transaction until `close`.
 * Everything else is read as it is.
 *
 * SQLite cannot checkpoint the write-ahead log past an open read transaction, so keep a snapshot
 * open for seconds, not minutes.
 */
export class FiguresSnapshot {
  private readonly own: Db;

  constructor(private readonly db: Db) {
    this.own = connect(db.$client.name);
    // A transaction begins to hold what it reads with the first thing that it reads.
    this.own.$client.exec('BEGIN; SELECT count(*) FROM site;');
    pins.set(db, this.own);
  }

  /** Lets figures be read as they stand at any time. */
  close(): void {
    pins.delete(this.db);
    this.own.$client.close();
  }
}
