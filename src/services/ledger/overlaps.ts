import { pagePath } from '../../core/address/address';
import { parseIsoDay, type Day } from '../../core/calendar/day';
import type { Change, NewChange, PageRef } from '../../core/model/change';
import { isMade } from '../../core/model/steps';
import type { Site } from '../../core/model/site';
import { longDay } from '../../core/words/format';
import { changesOnPages } from '../../store/ledger/findChanges';
import type { Db } from '../../store/database';
import { listPages, pageAddressOf } from '../../store/addresses/pages';
import { spansOf } from '../reading/readingSpans';

/**
 * A sentence for each other change on some pages whose after span is not over on a day: the two could not be told apart.
 * Addresses that make no sense are passed over; saving complains of them.
 */
export function overlapWarnings(
  db: Db,
  site: Site,
  own: number | null,
  addresses: readonly string[],
  day: Day,
): string[] {
  const ids = pagesNamed(db, site, addresses).map(({ id }) => id);
  return changesOnPages(db, ids)
    .filter((other) => other.id !== own && isMade(other) && other.day <= day)
    .flatMap((other) => {
      const { lastDay } = spansOf(site, other).after;
      if (lastDay < day) return [];
      const shared = other.pages.filter(({ id }) => ids.includes(id)).map(({ address }) => pagePath(address));
      const where = shared.length === 1 ? shared[0] : `${shared.length} of these pages`;
      return `“${other.title}” on ${where} is read until ${longDay(lastDay)}: the two can no longer be told apart. Wait until then, or log them as one.`;
    });
}

/** The pages of a site that written addresses name; what makes no sense or has no page yet is passed over. */
function pagesNamed(db: Db, site: Site, addresses: readonly string[]): PageRef[] {
  const wanted = new Set(
    addresses.flatMap((text) => {
      try {
        return pageAddressOf(site, text);
      } catch {
        return [];
      }
    }),
  );
  return listPages(db, site.id).filter(({ address }) => wanted.has(address));
}

/** A change as it would stand if it were logged, for asking what would come of it; null without a page that is known. */
export function thoughtOf(db: Db, site: Site, input: NewChange): Change | null {
  const pages = pagesNamed(db, site, input.pages);
  const { expectation } = input;
  if (pages.length === 0) return null;
  const asDay = (text: string) => parseIsoDay(text) as Day;
  return {
    ...input,
    ...{ id: -1, siteId: site.id, day: asDay(input.day), pages, parts: [], steps: {}, decision: null },
    written: pages.map(({ address }) => address),
    expectation: expectation && {
      ...expectation,
      reviewDay: expectation.reviewDay === null ? null : asDay(expectation.reviewDay),
    },
  };
}
