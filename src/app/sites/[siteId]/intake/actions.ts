'use server';

import { z } from 'zod';
import { action, question } from '@/app/action';
import { Problem } from '@/app/problem';
import { intakeSettingsSchema, statedIn } from '@/core/intake/settings';
import { FileRefused } from '@/jobs/intake/fileRefused';
import { dropDrafts } from '@/jobs/queueFile';
import { inspectLedgerUpload, inspectUpload, undoInWorker } from '@/jobs/inWorker';
import { startRunner } from '@/jobs/runner';
import { cancelImport, confirmDraft, draftsOf } from '@/store/figures/imports';

const NO_DRAFT = 'This file was confirmed or dropped already.';

/** Looks through a draft again under another mapping or date order. */
export const inspectDraft = question(
  { on: 'draft', may: 'log' },
  [intakeSettingsSchema],
  ({ site, row }, stated) => {
    if (row.state !== 'draft') throw new Problem(409, NO_DRAFT);
    return inspectUpload(row.id, site, statedIn(stated));
  },
);

/** Confirms how a draft is to be read, and puts it in the queue. */
export const confirmImport = action(
  { on: 'draft', may: 'log', auditAction: 'brought a file in' },
  [intakeSettingsSchema],
  async ({ db, row }, settings) => {
    if (!(await confirmDraft(db, row.id, settings))) throw new Problem(409, NO_DRAFT);
    startRunner();
    return null;
  },
);

/** Looks through a draft as a sheet of changes, under another mapping or date order. */
export const inspectSheet = question(
  { on: 'draft', may: 'log' },
  [intakeSettingsSchema],
  ({ site, row }, stated) => {
    if (row.state !== 'draft') throw new Problem(409, NO_DRAFT);
    return inspectLedgerUpload(row.id, site.id, stated);
  },
);

/** Confirms how a draft is to be read as a sheet of changes, and puts it in the queue. */
export const confirmSheet = action(
  { on: 'draft', may: 'log', auditAction: 'brought a sheet of changes in' },
  [intakeSettingsSchema],
  async ({ db, row }, settings) => {
    if (!(await confirmDraft(db, row.id, settings, 'changes'))) throw new Problem(409, NO_DRAFT);
    startRunner();
    return null;
  },
);

/** Confirms all drafts that leave nothing open, as they are understood. */
export const confirmAll = action(
  { on: 'site', may: 'log', auditAction: 'brought files in' },
  [],
  async ({ db, site }) => {
    let [confirmed, open] = [0, 0];
    for (const id of draftsOf(db, site.id)) {
      const seen = await inspectUpload(id, site, {}).catch((error: unknown) => {
        if (error instanceof FileRefused) return null;
        throw error;
      });
      if (seen === null || seen.mappingProblems.length + seen.questions.length > 0) open++;
      else if (await confirmDraft(db, id, { mapping: seen.mapping })) confirmed++;
    }
    startRunner();
    return { confirmed, open };
  },
);

/** Takes a file out of the figures again, or lets it count once more. */
export const undoOrRedo = action(
  { on: 'import', may: 'edit', auditAction: 'undid a file, or let it count again' },
  [z.enum(['undo', 'redo'])],
  async ({ site, row }, task) => {
    if (!(await undoInWorker(task, site.id, row.id)))
      throw new Problem(409, task === 'undo' ? 'It cannot be undone any more.' : 'It is not undone.');
    return null;
  },
);

/** Drops a file that was looked through and is not wanted after all. */
export const discardDraft = action(
  { on: 'draft', may: 'log', auditAction: 'dropped a file' },
  [],
  async ({ db, row }) => {
    if (row.state !== 'draft') throw new Problem(409, NO_DRAFT);
    await dropDrafts(db, [row.id]);
    return null;
  },
);

/** Stops an import of which nothing is stored yet. */
export const stopImport = action(
  { on: 'import', may: 'edit', auditAction: 'stopped a file' },
  [],
  async ({ db, row }) => {
    if (!(await cancelImport(db, row.id))) throw new Problem(409, 'It is over already.');
    return null;
  },
);

/** Tells the other screens that new figures are there. */
export const importFinished = action({ on: 'site', may: 'read' }, [], () => null);
