import { ask } from '@/app/ask';
import { groupsJson } from '@/core/effect/movingGroupsJson';
import { toJson } from '@/core/model/json';
import { answer, operation } from '../../../doorway';

export const GET = operation(
  {
    summary: 'The pages that move together',
    on: 'site',
    may: 'read',
    answers: { '200': answer('The groups, the largest first', groupsJson) },
  },
  async ({ site }) => {
    const found = await ask('groups', { siteId: site.id });
    const { learned, groups } = found ?? { learned: false, groups: [] };
    return Response.json(toJson(groupsJson, { learned, items: groups }));
  },
);
