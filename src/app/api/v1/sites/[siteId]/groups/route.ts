import { ask } from '@/app/ask';
import { answer, operation } from '../../../doorway';
import { groupsJson } from '../../../readingSchemas';

export const GET = operation(
  {
    summary: 'The pages that move together',
    on: 'site',
    may: 'read',
    answers: { '200': answer('The groups, the largest first', groupsJson) },
  },
  async ({ site }) => {
    const found = await ask('groups', { siteId: site.id });
    const items = (found?.groups ?? []).map(({ number, name, named, pages, mostly, words }) => ({
      ...{ number, name, named, mostly, words },
      pages: pages.map(({ address }) => address),
    }));
    return Response.json({ learned: found?.learned ?? false, items });
  },
);
