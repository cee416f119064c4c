import { authorizePrivateHosts } from '@/app/authorize';
import { startFeeds } from '@/jobs/runner';
import { newFeedSchema } from '@/core/model/feed';
import { addFeed, findFeed, listFeeds, updateFeed } from '@/store/figures/feeds';
import { feedJson, feedsJson } from '@/core/model/feedJson';
import { toJson } from '@/core/model/json';
import { answer, operation } from '../../../doorway';

export const GET = operation(
  { summary: 'List the feeds', on: 'site', may: 'read', answers: { '200': answer('The feeds', feedsJson) } },
  ({ db, site }) => Response.json(toJson(feedsJson, { items: listFeeds(db, site.id) })),
);

export const POST = operation(
  {
    summary: 'Set up a feed, which is fetched at once',
    on: 'site',
    may: 'own',
    auditAction: 'set up a feed',
    body: newFeedSchema,
    answers: { '201': answer('The feed', feedJson) },
  },
  async ({ db, site, body, asker }) => {
    authorizePrivateHosts(asker, body.allowPrivate, 'allowPrivate');
    const id = await addFeed(db, site.id, body);
    await updateFeed(db, id, { state: 'asked' });
    startFeeds();
    return Response.json(toJson(feedJson, findFeed(db, id)!), {
      status: 201,
      headers: { Location: `/api/v1/feeds/${id}` },
    });
  },
);
