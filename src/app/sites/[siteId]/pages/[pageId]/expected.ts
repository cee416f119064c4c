import { ask } from '@/app/ask';
import type { ExpectedClicks } from '@/core/measures/comparison';
import { recentSpans } from '@/services/pages/pageList';
import type { SiteContext } from '@/services/site/siteContext';

/** The clicks to be expected of the showings of a page over the last days and those before, from the thread that has the queries. */
export async function expectedLately(
  { site, lastReadable }: SiteContext,
  pageId: number,
): Promise<ExpectedClicks> {
  if (lastReadable === null) return { before: null, after: null };
  const { before, after } = recentSpans(lastReadable);
  const sides = await ask('expected', { siteId: site.id, pageId, spans: [before, after] });
  return { before: sides?.[0] ?? null, after: sides?.[1] ?? null };
}
