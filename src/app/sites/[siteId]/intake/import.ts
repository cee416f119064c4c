import { notFound } from 'next/navigation';
import type { Site } from '@/core/model/site';
import type { Db } from '@/store/database';
import { findImport, type ImportRow } from '@/store/figures/imports';
import { siteFromPath } from '../site';

export type ImportPageParams = { siteId: string; importId: string };

/** The import that the address of a screen names; one that is unknown or of another site is not found. */
export async function importFromPath(
  params: ImportPageParams,
): Promise<{ db: Db; site: Site; row: ImportRow }> {
  const { db, site } = await siteFromPath(params.siteId);
  const row = /^\d{1,15}$/.test(params.importId) ? findImport(db, Number(params.importId)) : null;
  if (!row || row.siteId !== site.id) notFound();
  return { db, site, row };
}
