'use server';

import { revalidatePath } from 'next/cache';
import { asFormResult, type FormResult } from '@/app/formResult';
import { startFeeds } from '@/jobs/runner';
import { database } from '@/store/database';
import { addFeed, findFeed, newFeedSchema, updateFeed, type NewFeed } from '@/store/figures/feeds';
import { timestamp } from '@/store/write';

/** Sets up a feed, and fetches it for the first time. */
export async function setUpFeed(siteId: number, input: NewFeed): Promise<FormResult<null>> {
  return asFormResult(async () => {
    const db = database();
    const id = await addFeed(db, siteId, newFeedSchema.parse(input));
    await updateFeed(db, id, { state: 'asked' });
    startFeeds();
    revalidatePath('/sites', 'layout');
    return null;
  });
}

/** Fetches a feed now. */
export async function fetchNow(siteId: number, feedId: number): Promise<void> {
  const db = database();
  const feed = findFeed(db, feedId);
  if (feed?.siteId !== siteId || feed.state !== 'idle') return;
  await updateFeed(db, feedId, { state: 'asked', failure: null, pagesFetched: 0 });
  startFeeds();
  revalidatePath('/sites', 'layout');
}

/** Takes a feed away, or puts it back. What it brought stays. */
export async function removeFeed(siteId: number, feedId: number, removed: boolean): Promise<void> {
  const db = database();
  const mine = removed ? findFeed(db, feedId)?.siteId === siteId : true;
  if (mine) await updateFeed(db, feedId, { deletedAt: removed ? timestamp() : null });
  revalidatePath('/sites', 'layout');
}
