import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { asDay, parseIsoDay, type Day } from '@/core/calendar/day';
import type { Site } from '@/core/model/site';
import { importFile } from '@/jobs/importFile';
import { bringForward, connect, type Db } from '@/store/database';
import type { IntakeSettings } from '@/core/intake/settings';
import { addImport, findImport, type ImportRow } from '@/store/figures/imports';
import { addSite } from '@/store/sites';

export const HOME = 'https://www.quillow-bees.example';

/** A day from its ISO form, which must be right. */
export function day(iso: string): Day {
  return asDay(parseIsoDay(iso) ?? NaN);
}

/** A database without anything in it: carried forward once, and copied from then on. */
let empty: Buffer | null = null;

/** A database in a folder of its own, gone with `close`. */
export class TempStore {
  readonly dir = mkdtempSync(path.join(tmpdir(), 'tally-test-'));
  readonly file = path.join(this.dir, 'tally.sqlite');
  readonly db: Db;
  private files = 0;

  constructor() {
    if (empty) writeFileSync(this.file, empty);
    this.db = connect(this.file);
    // What a test stored need not outlast the machine that it runs on.
    this.db.$client.pragma('synchronous = OFF');
    if (empty) return;
    bringForward(this.db);
    this.db.$client.pragma('wal_checkpoint(TRUNCATE)');
    empty = readFileSync(this.file);
  }

  site(address = HOME): Promise<Site> {
    return addSite(this.db, { name: 'Quillow Bee Yard', address });
  }

  /** Imports a CSV as the worker does, on a connection of its own. `takenOn` is far off, so that all days are final. */
  async import(
    site: Site,
    csv: string | Uint8Array,
    settings: IntakeSettings = {},
    takenOn = '2030-01-01',
  ): Promise<ImportRow> {
    const file = path.join(this.dir, `${++this.files}.csv`);
    writeFileSync(file, csv);
    const id = await addImport(
      this.db,
      {
        siteId: site.id,
        fileName: 'test.csv',
        bytesTotal: csv.length,
        takenOn: day(takenOn),
        state: 'queued',
      },
      settings,
    );
    const worker = connect(this.file);
    try {
      await importFile(worker, id, file);
    } finally {
      worker.$client.close();
    }
    return findImport(this.db, id) as ImportRow;
  }

  /** All rows of a table, for comparing whole states of the database. */
  rows(table: string): unknown[] {
    return this.db.$client.prepare(`SELECT * FROM ${table}`).all();
  }

  close(): void {
    this.db.$client.close();
    rmSync(this.dir, { recursive: true, force: true });
  }
}
