/*
 * Progress of running imports. Kept in files, since writes to the database discard computed
 * answers.
 */

import { mkdirSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { z } from 'zod';
import { fileOf, type Db } from '../database';

const progressSchema = z.object({
  rowsRead: z.int(),
  rowsRefused: z.int().optional(),
  bytesRead: z.int().optional(),
});
export type ImportProgress = z.infer<typeof progressSchema>;

/**
 * Name of the files of an import in the upload folder: its id, or `site-` and the id of a site
 * archive.
 */
type SpoolName = number | `site-${number}`;

/** A file whose name says that it means nothing after a restart. */
const fileFor = (db: Db, name: SpoolName) =>
  path.join(path.dirname(fileOf(db)), 'uploads', `${name}.progress.part`);

/** Tells how far an import has come. Throws if the file can't be written. */
export function noteProgress(db: Db, name: SpoolName, progress: ImportProgress): void {
  const file = fileFor(db, name);
  mkdirSync(path.dirname(file), { recursive: true });
  const whole = file.replace(/part$/, 'new.part');
  writeFileSync(whole, JSON.stringify(progress));
  renameSync(whole, file);
}

/** Forgets how far an import had come, once its record says it or it begins again. */
export function forgetProgress(db: Db, name: SpoolName): void {
  rmSync(fileFor(db, name), { force: true });
}

/** The record of an import, with how far it has come if it is running. */
export function withProgress<Row extends { readonly state: string }>(db: Db, name: SpoolName, row: Row): Row {
  if (row.state !== 'running') return row;
  try {
    return { ...row, ...progressSchema.parse(JSON.parse(readFileSync(fileFor(db, name), 'utf8'))) };
  } catch {
    // Nothing was told yet.
    return row;
  }
}
