'use server';

import { revalidatePath } from 'next/cache';
import { z } from 'zod';
import { asFormResult, type FormResult } from '@/app/formResult';
import { pagePath } from '@/core/address/address';
import { kindsOf } from '@/core/markup/differences';
import type { PageRef } from '@/core/model/change';
import { mediumDay, plural } from '@/core/words/format';
import { askIndex } from '@/jobs/askIndex';
import { reachIndex } from '@/jobs/outsideWorld';
import { lookInWorker, startLooks } from '@/jobs/runner';
import { changesOnPages, findChange } from '@/store/changes';
import { today } from '@/store/clock';
import { database } from '@/store/database';
import { findPage, listPages } from '@/store/pages';
import { addSighting } from '@/store/sightings';
import { findSite } from '@/store/sites';
import { findSnapshot, passOver, setWatched } from '@/store/snapshots';
import { recordIfSeen } from '@/store/titleChecks';

/** Fetches a page now; gives a sentence of what came of it. */
export async function lookNow(siteId: number, pageId: number): Promise<string> {
  const page = findPage(database(), siteId, pageId);
  if (!page) return 'There is no such page any more.';
  const said = await look(siteId, page);
  revalidatePath('/sites', 'layout');
  return said;
}

async function look(siteId: number, page: PageRef): Promise<string> {
  const looked = await lookInWorker(siteId, page);
  if ('failure' in looked) return looked.failure;
  const snapshot = findSnapshot(database(), looked.snapshotId);
  if (!snapshot || snapshot.differences === null) return 'Fetched for the first time.';
  return snapshot.takenAt === snapshot.lastSeenAt
    ? `Fetched: ${kindsOf(snapshot.differences).toLowerCase()}.`
    : `Fetched: as it has been since ${mediumDay(snapshot.day)}.`;
}

/** Pages of one change that are fetched at once at most. */
const MOST_AT_ONCE = 20;

/** Fetches the pages of a change, and asks the index about them where one answers. */
export async function lookAfterChange(siteId: number, changeId: number): Promise<string> {
  const db = database();
  const site = findSite(db, siteId);
  const change = findChange(db, changeId);
  if (!site || change?.siteId !== siteId) return 'There is no such change any more.';
  const pages = change.pages.slice(0, MOST_AT_ONCE);
  const said: string[] = [];
  for (const page of pages) {
    const one = await look(siteId, page);
    said.push(pages.length === 1 ? one : `${pagePath(page.address)}: ${one}`);
  }
  const index = reachIndex(db, site);
  const answer = index && (await askIndex(db, change, index, today()));
  revalidatePath('/sites', 'layout');
  const fetched = pages.length === 1 ? said[0]! : `${plural(pages.length, 'page')} fetched.`;
  if (!answer) return fetched;
  const crawled =
    answer.crawled === change.pages.length
      ? 'crawled since'
      : `${answer.crawled} of ${plural(change.pages.length, 'page')} crawled since`;
  return `${fetched} The index says: ${answer.crawled === 0 ? 'not crawled yet' : crawled}.`;
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
