import { and, asc, desc, eq, inArray, lt } from 'drizzle-orm';
import { intakeSettingsSchema, type IntakeSettings } from '../../core/intake/settings';
import { standingSite } from '../standing';
import { setAuditTarget } from '../acting';
import { prepared, type Db } from '../database';
import { withProgress } from './importProgress';
import { imported, importProblem, intakeMemory } from '../schema';
import { timestamp, writeFigures } from '../write';

/** How files with a head were last confirmed to be read; empty where none was. */
export function rememberedSettings(db: Db, siteId: number, head: string): IntakeSettings {
  const row = db
    .select({ settings: intakeMemory.settings })
    .from(intakeMemory)
    .where(and(eq(intakeMemory.siteId, siteId), eq(intakeMemory.head, head)))
    .get();
  return row ? intakeSettingsSchema.parse(JSON.parse(row.settings)) : {};
}

/** Remembers how a file was read, for the next ones with the same head. Its period isn’t kept. */
export async function rememberSettings(
  db: Db,
  siteId: number,
  head: string,
  { mapping, dateOrder, counted, ledger }: IntakeSettings,
): Promise<void> {
  const settings = JSON.stringify({ mapping, dateOrder, counted, ledger });
  await writeFigures(db, () =>
    db
      .insert(intakeMemory)
      .values({ siteId, head, settings })
      .onConflictDoUpdate({ target: [intakeMemory.siteId, intakeMemory.head], set: { settings } })
      .run(),
  );
}

export type ImportRow = typeof imported.$inferSelect;
export type ImportProblem = { readonly line: number; readonly message: string };

/** How many problems an answer or a screen lists; the saved file has the rest. */
export const PROBLEMS_SHOWN = 200;

export function findImport(db: Db, id: number): ImportRow | null {
  const row = db.select().from(imported).where(eq(imported.id, id)).get();
  return row ? withProgress(db, id, row) : null;
}

/** So many imports are listed at a time. */
export const IMPORTS_SHOWN = 200;

/** Imports of a site with its drafts, newest first: the last ones, or those before one. */
export function listImports(db: Db, siteId: number, before = Number.MAX_SAFE_INTEGER): ImportRow[] {
  return db
    .select()
    .from(imported)
    .where(and(eq(imported.siteId, siteId), lt(imported.id, before)))
    .orderBy(desc(imported.id))
    .limit(IMPORTS_SHOWN)
    .all()
    .map((row) => withProgress(db, row.id, row));
}

/** The drafts of a site in the order in which they came. */
export function draftsOf(db: Db, siteId: number): number[] {
  return prepared<[number], number>(
    db,
    "SELECT id FROM import WHERE site_id = ? AND state = 'draft' ORDER BY id",
  )
    .pluck()
    .all(siteId);
}

export function listProblems(db: Db, importId: number, limit: number): ImportProblem[] {
  return db
    .select({ line: importProblem.line, message: importProblem.message })
    .from(importProblem)
    .where(eq(importProblem.importId, importId))
    .orderBy(asc(importProblem.line))
    .limit(limit)
    .all();
}

/** The refused rows of an import as they stood in the file, in its order. */
export function refusedRows(db: Db, importId: number): (ImportProblem & { cells: string[] })[] {
  return db
    .select()
    .from(importProblem)
    .where(eq(importProblem.importId, importId))
    .orderBy(asc(importProblem.line))
    .all()
    .map(({ line, message, cells }) => ({ line, message, cells: JSON.parse(cells) as string[] }));
}

/** Records an uploaded file. Its bytes must be in the spool under the id that is given back. */
export async function addImport(
  db: Db,
  values: Pick<ImportRow, 'siteId' | 'fileName' | 'bytesTotal' | 'takenOn'> & {
    state: 'draft' | 'queued';
    feedId?: number;
  },
  settings: IntakeSettings = {},
): Promise<number> {
  const row = { ...values, settings: JSON.stringify(settings), createdAt: timestamp() };
  return writeFigures(db, () => {
    const { id } = db.insert(imported).values(row).returning({ id: imported.id }).get();
    return setAuditTarget('import', id, values.fileName);
  });
}

/** Turns a draft into an import that waits for its turn. */
export async function confirmDraft(
  db: Db,
  id: number,
  settings: IntakeSettings,
  about: ImportRow['about'] = 'figures',
): Promise<boolean> {
  return writeFigures(
    db,
    () =>
      db
        .update(imported)
        .set({ state: 'queued', about, settings: JSON.stringify(settings) })
        .where(and(eq(imported.id, id), eq(imported.state, 'draft')))
        .run().changes === 1,
  );
}

/** Removes a draft, never a confirmed import. Resolves to whether one was removed. */
export async function dropDraft(db: Db, id: number): Promise<boolean> {
  return writeFigures(
    db,
    () =>
      db
        .delete(imported)
        .where(and(eq(imported.id, id), eq(imported.state, 'draft')))
        .run().changes === 1,
  );
}

/** Asks a waiting or running import to stop, storing nothing. Resolves to whether it could. */
export async function cancelImport(db: Db, id: number): Promise<boolean> {
  return writeFigures(
    db,
    () =>
      db
        .update(imported)
        .set({ cancelled: true })
        .where(and(eq(imported.id, id), inArray(imported.state, ['queued', 'running'])))
        .run().changes === 1,
  );
}

/** A file that waits for its turn or comes in. */
export type UnfinishedImport = Pick<ImportRow, 'id' | 'rowsRead' | 'bytesRead' | 'bytesTotal'> & {
  readonly state: 'queued' | 'running';
  /** Files of any site that come before it; 0 for the one that runs or is next. */
  readonly before: number;
};

/** The files of a site that wait or come in, in the order in which they run. */
export function unfinishedImports(db: Db, siteId: number): UnfinishedImport[] {
  return prepared<[number], UnfinishedImport>(
    db,
    `SELECT id, state, rows_read AS rowsRead, bytes_read AS bytesRead, bytes_total AS bytesTotal,
       (SELECT count(*) FROM import o WHERE o.state IN ('queued', 'running') AND o.id < import.id) AS before
     FROM import WHERE site_id = ? AND state IN ('queued', 'running') ORDER BY id`,
  )
    .all(siteId)
    .map((row) => withProgress(db, row.id, row));
}

/** The imports whose files are still needed. */
export function unfinishedIds(db: Db): number[] {
  return prepared<[], number>(db, "SELECT id FROM import WHERE state IN ('draft', 'queued', 'running')")
    .pluck()
    .all();
}

/** The import whose turn it is, or null. */
export function nextQueued(db: Db): ImportRow | null {
  return (
    db
      .select()
      .from(imported)
      .where(and(eq(imported.state, 'queued'), standingSite(imported.siteId)))
      .orderBy(asc(imported.id))
      .limit(1)
      .get() ?? null
  );
}

/** Removes drafts from before an instant and gives their ids, so that their files can go too. */
export async function dropOldDrafts(db: Db, before: string): Promise<number[]> {
  return writeFigures(db, () =>
    db
      .delete(imported)
      .where(and(eq(imported.state, 'draft'), lt(imported.createdAt, before)))
      .returning({ id: imported.id })
      .all()
      .map((row) => row.id),
  );
}

export async function updateImport(db: Db, id: number, values: Partial<ImportRow>): Promise<void> {
  await writeFigures(db, () => db.update(imported).set(values).where(eq(imported.id, id)).run());
}
