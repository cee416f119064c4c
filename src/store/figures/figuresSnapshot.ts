import { connect, type Db } from '../database';

/* The figures that are shown, while newer ones are still being worked in. */

const pins = new WeakMap<Db, Db>();

/** The connection over which figures are read: the one that stays at a moment, where there is one, else the one itself. */
export function shown(db: Db): Db {
  return pins.get(db) ?? db;
}

/**
 * Holds the figures that are read over a connection as they stand at this moment, whatever is brought in meanwhile, by a second
 * connection that stays in one read transaction. Everything else is read as it stands. As long as it is held the
 * write-ahead log only grows, so it is for some seconds.
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
