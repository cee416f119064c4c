import { operation } from '@/app/api/v1/doorway';
import { underWay } from '@/jobs/questions/ask';

/** What the screens of a site wait for, and how far it has come. */
export const GET = operation(
  { summary: 'What is under way', on: 'site', may: 'read', answers: {} },
  ({ site }) => Response.json(underWay(site.id), { headers: { 'cache-control': 'no-store' } }),
);
