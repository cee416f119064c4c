import { pagePath } from '../core/address/address';
import type { Day } from '../core/calendar/day';
import { isMade } from '../core/model/steps';
import type { Site } from '../core/model/site';
import { longDay } from '../core/words/format';
import { changesOnPages } from './changes';
import type { Db } from './database';
import { listPages, pageAddressOf } from './pages';
import { spansOf } from './readings';

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
  const wanted = new Set(
    addresses.flatMap((text) => {
      try {
        return pageAddressOf(site, text);
      } catch {
        return [];
      }
    }),
  );
  const ids = listPages(db, site.id)
    .filter(({ address }) => wanted.has(address))
    .map(({ id }) => id);
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
