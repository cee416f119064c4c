import type { Span } from '../../core/calendar/span';
import type { Change } from '../../core/model/change';
import { movesOf } from '../../core/model/movedAddress';
import type { Carrier } from '../../core/reading/readingModel';
import { addressesOfPage, pageAddressOf, pageOf } from '../../store/addresses/pages';
import { carriersOf } from '../../store/figures/carriers';
import type { SiteContext } from '../site/siteContext';

/** A page that was moved: its address before and after, and whether the two are one page by now. */
export type MovedPage = {
  readonly from: string;
  readonly to: string;
  readonly joined: boolean;
  /** The written addresses of the old page that have figures; to be joined to the new one. */
  readonly addressIds: readonly number[];
};

/** The moves of a URL change, if both URLs are of the site and different pages. */
export function movedPages({ db, site }: SiteContext, change: Change): MovedPage[] {
  return movesOf(change).flatMap(({ from, to }) => {
    try {
      const [old, now] = [pageAddressOf(site, from), pageAddressOf(site, to)];
      if (old === now) return [];
      const target = pageOf(db, site, to);
      // Joined by hand, an address belongs to the other page whatever its own key says.
      const addresses = addressesOfPage(db, site.id, old);
      const apart = addresses.filter(({ pageId }) => pageId !== target?.id);
      return [
        {
          ...{ from: old, to: now },
          joined: addresses.length > 0 && apart.length === 0,
          addressIds: apart.map(({ id }) => id),
        },
      ];
    } catch {
      return [];
    }
  });
}

/** When each URL of a change’s pages carried their figures; empty unless it is a URL change. */
export function carriersFor({ db }: SiteContext, change: Change, span: Span): Carrier[] {
  if (movesOf(change).length === 0) return [];
  const carriers = carriersOf(
    db,
    change.pages.map(({ id }) => id),
    span,
  );
  return carriers.length > 1 ? carriers : [];
}
