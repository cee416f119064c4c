import { setFeedDeleted } from '@/store/figures/feeds';
import { feedJson } from '@/core/model/feedJson';
import { toJson } from '@/core/model/json';
import { answer, empty, operation } from '../../doorway';

export const GET = operation(
  { summary: 'One feed', on: 'feed', may: 'read', answers: { '200': answer('The feed', feedJson) } },
  ({ feed }) => Response.json(toJson(feedJson, feed)),
);

export const DELETE = operation(
  {
    summary: 'Take a feed away; what it brought stays',
    on: 'feed',
    may: 'own',
    auditAction: 'took a feed away',
    answers: { '204': empty('Taken away') },
  },
  async ({ db, feed, guard }) => {
    await setFeedDeleted(db, feed.id, true, guard);
    return new Response(null, { status: 204 });
  },
);
