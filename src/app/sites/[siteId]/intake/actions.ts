'use server';

import { revalidatePath } from 'next/cache';
import { asFormResult, type FormResult } from '@/app/formResult';
import type { Inspection } from '@/core/intake/inspection';
import { FileRefused } from '@/jobs/intake/fileRefused';
import type { LedgerInspection } from '@/core/ledgerSheet/inspection';
import { inspectLedgerUpload, inspectUpload, startRunner, undoInWorker } from '@/jobs/runner';
import { intakeSettingsSchema, statedIn, type IntakeSettings } from '@/core/intake/settings';
import { dropSpooled } from '@/jobs/spool';
import { database } from '@/store/database';
import { cancelImport, confirmDraft, dropDraft, findImport, listImports } from '@/store/figures/imports';
import { findSite } from '@/store/sites';

/** Looks through a draft again under another mapping or date order. */
export async function inspectDraft(
  siteId: number,
  importId: number,
  stated: IntakeSettings,
): Promise<FormResult<Inspection>> {
  return asFormResult(async () => {
    const db = database();
    const site = findSite(db, siteId);
    if (!site || findImport(db, importId)?.siteId !== siteId)
      throw new Error(`There is no import ${importId}.`);
    return inspectUpload(importId, site, statedIn(intakeSettingsSchema.parse(stated)));
  });
}

/** Confirms how a draft is to be read, and puts it in the queue. */
export async function confirmImport(
  siteId: number,
  importId: number,
  settings: IntakeSettings,
): Promise<void> {
  const db = database();
  if (findImport(db, importId)?.siteId !== siteId) return;
  await confirmDraft(db, importId, intakeSettingsSchema.parse(settings));
  startRunner();
  revalidatePath('/sites', 'layout');
}

/** Looks through a draft as a sheet of changes, under another mapping or date order. */
export async function inspectSheet(
  siteId: number,
  importId: number,
  stated: IntakeSettings,
): Promise<FormResult<LedgerInspection>> {
  return asFormResult(async () => {
    if (findImport(database(), importId)?.siteId !== siteId)
      throw new Error(`There is no import ${importId}.`);
    return inspectLedgerUpload(importId, siteId, intakeSettingsSchema.parse(stated));
  });
}

/** Confirms how a draft is to be read as a sheet of changes, and puts it in the queue. */
export async function confirmSheet(
  siteId: number,
  importId: number,
  settings: IntakeSettings,
): Promise<void> {
  const db = database();
  if (findImport(db, importId)?.siteId !== siteId) return;
  await confirmDraft(db, importId, intakeSettingsSchema.parse(settings), 'changes');
  startRunner();
  revalidatePath('/sites', 'layout');
}

/** Confirms all drafts that leave nothing open, as they are understood. */
export async function confirmAll(siteId: number): Promise<{ confirmed: number; open: number }> {
  const db = database();
  const site = findSite(db, siteId);
  let [confirmed, open] = [0, 0];
  if (!site) return { confirmed, open };
  for (const { id } of listImports(db, siteId)
    .filter(({ state }) => state === 'draft')
    .reverse()) {
    const seen = await inspectUpload(id, site, {}).catch((error: unknown) => {
      if (error instanceof FileRefused) return null;
      throw error;
    });
    if (seen === null || seen.mappingProblems.length + seen.questions.length > 0) open++;
    else if (await confirmDraft(db, id, { mapping: seen.mapping })) confirmed++;
  }
  startRunner();
  revalidatePath('/sites', 'layout');
  return { confirmed, open };
}

/** Takes a file out of the figures again, or lets it count once more. */
export async function undoOrRedo(siteId: number, importId: number, task: 'undo' | 'redo'): Promise<void> {
  await undoInWorker(task === 'redo' ? 'redo' : 'undo', siteId, importId);
  revalidatePath('/sites', 'layout');
}

/** Drops a file that was looked through and is not wanted after all. */
export async function discardDraft(siteId: number, importId: number): Promise<void> {
  const db = database();
  if (findImport(db, importId)?.siteId !== siteId) return;
  if (await dropDraft(db, importId)) await dropSpooled(importId);
  revalidatePath('/sites', 'layout');
}

/** Stops an import of which nothing is stored yet. */
export async function stopImport(siteId: number, importId: number): Promise<void> {
  const db = database();
  if (findImport(db, importId)?.siteId === siteId) await cancelImport(db, importId);
}

/** Tells the other screens that new figures are there. */
export async function importFinished(): Promise<void> {
  revalidatePath('/sites', 'layout');
}
