import type { ListSubject } from '../../core/lists/columns';
import { listRanges, listSorting, listSpans, listWords, type ListQuery } from '../../core/lists/wish';
import { DEVICES } from '../../core/intake/rowReader';
import type { ListRequest } from './listRequest';
import type { SiteContext } from '../site/siteContext';

/** What a list is asked for, with its days settled; a sentence where it makes no sense, null without daily figures. */
export function listRequest(
  { lastReadable }: SiteContext,
  subject: ListSubject,
  query: ListQuery,
  narrowed: Pick<ListRequest, 'pageId' | 'queryId'> = {},
): ListRequest | string | null {
  if (lastReadable === null) return null;
  const spans = listSpans(query, lastReadable);
  if (typeof spans === 'string') return spans;
  return {
    ...{ subject, spans, ...narrowed },
    device: query.device ? DEVICES[query.device] : DEVICES.all,
    words: listWords(query.q),
    without: listWords(query.without),
    brand: query.brand === undefined ? null : query.brand === 'only',
    intent: query.intent ?? null,
    group: query.group ?? null,
    ranges: listRanges(query, subject),
    sort: listSorting(query.sort),
    from: Number(query.cursor ?? 0),
    limit: query.limit,
  };
}
