import { ask } from '@/app/ask';
import { Problem } from '@/app/problem';
import { SiteContext } from '@/services/site/siteContext';
import { listSpans } from '@/core/lists/wish';
import { DEVICES } from '@/core/intake/rowReader';
import { totalsJson } from '@/core/reading/totalsJson';
import { toJson } from '@/core/model/json';
import { answer, operation, problem } from '../../../doorway';
import { totalsQuerySchema } from '../../../totals';

export const GET = operation(
  {
    summary: 'Clicks, impressions, CTR and position of a site over some days, and before',
    on: 'site',
    may: 'read',
    query: totalsQuerySchema,
    answers: {
      '200': answer('The totals of both spans and their differences', totalsJson),
      '409': problem('There are no daily figures yet.'),
    },
  },
  async ({ db, site, query }) => {
    const { lastReadable } = new SiteContext(db, site);
    if (lastReadable === null) throw new Problem(409, 'There are no daily figures yet.');
    const spans = listSpans(query, lastReadable);
    if (typeof spans === 'string') throw new Problem(422, spans);
    const device = query.device ? DEVICES[query.device] : DEVICES.all;
    const found = await ask('totals', {
      siteId: site.id,
      request: { spans, device, path: query.path ?? null },
    });
    if (!found) throw new Problem(409, 'There are no daily figures yet.');
    return Response.json(toJson(totalsJson, found));
  },
);
