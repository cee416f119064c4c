import { ask } from '@/app/ask';
import { recentSpans, type ExpectedOfPages } from '@/services/pageList';
import type { SiteContext } from '@/services/siteContext';

/** The clicks to be expected of the showings of each page over the last days and those before, from the thread that has the queries. */
export async function expectedLately({ site, lastReadable }: SiteContext): Promise<ExpectedOfPages> {
  if (lastReadable === null) return new Map();
  const { before, after } = recentSpans(lastReadable);
  return ask('expected', { siteId: site.id, spans: [before, after] });
}
