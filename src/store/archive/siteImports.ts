import { eq } from 'drizzle-orm';
import { prepared, type Db } from '../database';
import { withProgress } from '../figures/importProgress';
import { siteImport } from '../schema';
import { timestamp, writeFigures } from '../write';
import { purgeSite } from './purge';

/** An archive of a site that was sent here. */
export type SiteImport = typeof siteImport.$inferSelect;

export function findSiteImport(db: Db, id: number): SiteImport | null {
  const row = db.select().from(siteImport).where(eq(siteImport.id, id)).get();
  return row ? withProgress(db, `site-${id}`, row) : null;
}

/** Records an archive that waits to be read; its file has to be in place by then. */
export async function addSiteImport(db: Db, fileName: string, bytes: number, rows: number): Promise<number> {
  const values = { fileName, bytes, rowsTotal: rows, state: 'queued' as const, createdAt: timestamp() };
  return writeFigures(
    db,
    () => db.insert(siteImport).values(values).returning({ id: siteImport.id }).get().id,
  );
}

/** The archive that has waited longest; null where none waits. */
export function nextSiteImport(db: Db): number | null {
  return (
    prepared<[], number>(db, "SELECT id FROM site_import WHERE state = 'queued' ORDER BY id LIMIT 1")
      .pluck()
      .get() ?? null
  );
}

export async function updateSiteImport(db: Db, id: number, set: Partial<SiteImport>): Promise<void> {
  await writeFigures(db, () => db.update(siteImport).set(set).where(eq(siteImport.id, id)).run());
}

/** Archives whose files are still needed. */
export function unfinishedSiteImports(db: Db): number[] {
  return prepared<[], number>(db, "SELECT id FROM site_import WHERE state IN ('queued', 'running')")
    .pluck()
    .all();
}

/** At start: takes away what a stopped process had read of archives, and lets them be read again. */
export async function clearUnfinishedSites(db: Db): Promise<void> {
  const half = prepared<[], number>(db, 'SELECT id FROM site WHERE arriving = 1').pluck().all();
  for (const id of half) await purgeSite(db, id);
  await writeFigures(db, () =>
    prepared(db, "UPDATE site_import SET state = 'queued', rows_read = 0 WHERE state = 'running'").run(),
  );
}
