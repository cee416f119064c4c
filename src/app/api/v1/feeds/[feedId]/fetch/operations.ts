import { startFeeds } from '@/jobs/runner';
import { findFeed, updateFeed } from '@/store/figures/feeds';
import { feedJson } from '@/core/model/feedJson';
import { toJson } from '@/core/model/json';
import { answer, operation } from '../../../doorway';

export const POST = operation(
  {
    summary: 'Fetch a feed now; one that is being fetched goes on',
    on: 'feed',
    may: 'log',
    auditAction: 'fetched a feed',
    answers: { '202': answer('The feed', feedJson) },
  },
  async ({ db, feed }) => {
    if (feed.state === 'idle')
      await updateFeed(db, feed.id, { state: 'asked', failure: null, pagesFetched: 0 });
    startFeeds();
    return Response.json(toJson(feedJson, findFeed(db, feed.id)!), { status: 202 });
  },
);
