'use server';

import { action } from '@/app/action';
import { authorizePrivateHosts } from '@/app/authorize';
import { Problem } from '@/app/problem';
import { startFeeds } from '@/jobs/runner';
import { newFeedSchema } from '@/core/model/feed';
import { addFeed, setFeedDeleted, updateFeed } from '@/store/figures/feeds';

/** Sets up a feed, and fetches it for the first time. */
export const setUpFeed = action(
  { on: 'site', may: 'own', auditAction: 'set up a feed' },
  [newFeedSchema],
  async ({ db, site, asker }, input) => {
    authorizePrivateHosts(asker, input.allowPrivate, 'allowPrivate');
    const id = await addFeed(db, site.id, input);
    await updateFeed(db, id, { state: 'asked' });
    startFeeds();
    return null;
  },
);

/** Fetches a feed now. */
export const fetchNow = action(
  { on: 'feed', may: 'log', auditAction: 'fetched a feed' },
  [],
  async ({ db, feed }) => {
    if (feed.state !== 'idle') throw new Problem(409, 'It is being fetched already.');
    await updateFeed(db, feed.id, { state: 'asked', failure: null, pagesFetched: 0 });
    startFeeds();
    return null;
  },
);

/** Takes a feed away; it can be put back. What it brought stays. */
export const removeFeed = action(
  { on: 'feed', may: 'own', auditAction: 'took a feed away' },
  [],
  async ({ db, feed }) => {
    await setFeedDeleted(db, feed.id, true);
    return null;
  },
);
