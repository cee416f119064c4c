'use server';

import { revalidatePath } from 'next/cache';
import { z } from 'zod';
import { asFormResult, type FormResult } from '@/app/formResult';
import { lookAndSay, lookAtChange } from '@/jobs/lookNow';
import { startLooks } from '@/jobs/runner';
import { changesOnPages } from '@/store/ledger/changes';
import { today } from '@/store/clock';
import { database } from '@/store/database';
import { findPage, listPages } from '@/store/addresses/pages';
import { addSighting } from '@/store/evidence/sightings';
import { passOver, setWatched } from '@/store/evidence/snapshots';
import { recordIfSeen } from '@/services/titleChecks';

/** Fetches a page now; gives a sentence of what came of it. */
export async function lookNow(siteId: number, pageId: number): Promise<string> {
  const page = findPage(database(), siteId, pageId);
  if (!page) return 'There is no such page any more.';
  const said = await lookAndSay(siteId, page);
  revalidatePath('/sites', 'layout');
  return said;
}

/** Fetches the pages of a change, and asks the index about them where one answers. */
export async function lookAfterChange(siteId: number, changeId: number): Promise<string> {
  const said = await lookAtChange(siteId, changeId);
  revalidatePath('/sites', 'layout');
  return said;
}

/** Says whether pages are fetched every day; those that are from now on are fetched soon. */
export async function watch(siteId: number, pageIds: number[], watched: boolean): Promise<void> {
  const db = database();
  const known = new Set(listPages(db, siteId).map(({ id }) => id));
  await setWatched(
    db,
    siteId,
    pageIds.filter((id) => known.has(id)),
    watched,
  );
  if (watched) startLooks();
  revalidatePath('/sites', 'layout');
}

/** Says of what a snapshot shows that it is nothing to log, or takes that back. */
export async function passOverSnapshot(
  siteId: number,
  snapshotId: number,
  passedOver: boolean,
): Promise<void> {
  await passOver(database(), siteId, snapshotId, passedOver);
  revalidatePath('/sites', 'layout');
}

const titleSchema = z.string().trim().min(1, 'The title is empty.').max(2000, 'At most 2,000 characters.');

/** Writes down which title the results show for a page today; changes whose title it is were then seen. */
export async function recordSighting(
  siteId: number,
  pageId: number,
  title: string,
): Promise<FormResult<null>> {
  return asFormResult(async () => {
    const db = database();
    const page = findPage(db, siteId, pageId);
    if (!page) throw new Error(`There is no page ${pageId}.`);
    await addSighting(db, pageId, { title: titleSchema.parse(title), day: today(), since: null });
    const [last] = changesOnPages(db, [pageId]);
    if (last) await recordIfSeen(db, last);
    revalidatePath('/sites', 'layout');
    return null;
  });
}
