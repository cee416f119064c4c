import { pagePath } from '../../core/address/address';
import { twinKey } from '../../core/address/twins';
import { lastSpans } from '../../core/calendar/span';
import type { PageRef } from '../../core/model/change';
import type { SavedCaution } from '../../core/model/changeJson';
import type { Site } from '../../core/model/site';
import { count, plural } from '../../core/words/format';
import { listPages, pageAddressOf, pageOf } from '../../store/addresses/pages';
import { pageAttribute } from '../../store/figures/attributes';
import { clicksIn } from '../../store/figures/series';
import { memoizeByFigures } from '../site/memoizeByFigures';
import type { SiteContext } from '../site/siteContext';

/** Sites whose clicks are kept. */
const MOST_KEPT = 8;
/** Days over which the clicks of pages are shown where one is chosen. */
const DAYS = 28;

/** A page that can be chosen, by its path, with what helps to choose it. */
export type PageChoice = {
  readonly path: string;
  /** Clicks of the last 28 days; null where the page has no search figures at all. */
  readonly clicks: number | null;
  /**
   * Path of the twin: the page with almost the same URL that has search figures, if this one has
   * none.
   */
  readonly twin: string | null;
  readonly group: string | null;
};

/** Pages with search figures by the key they share with their twins; the most clicked wins. */
class Twins {
  private readonly byKey = new Map<string, PageRef & { clicks: number }>();

  constructor(pages: readonly PageRef[], clicks: ReadonlyMap<number, number>) {
    for (const page of pages) {
      const own = clicks.get(page.id);
      if (own === undefined) continue;
      const key = twinKey(page.address);
      if ((this.byKey.get(key)?.clicks ?? -1) < own) this.byKey.set(key, { ...page, clicks: own });
    }
  }

  of(address: string): (PageRef & { clicks: number }) | null {
    const found = this.byKey.get(twinKey(address));
    return found && found.address !== address ? found : null;
  }
}

/** Clicks of the last 28 readable days of every page that has search figures. */
function recentClicks(context: SiteContext): ReadonlyMap<number, number> {
  const { db, site, lastReadable } = context;
  if (lastReadable === null) return new Map();
  return clicksKept(context, String(lastReadable), () =>
    clicksIn(db, site.id, lastSpans(lastReadable, DAYS).after),
  );
}
const clicksKept = memoizeByFigures<ReadonlyMap<number, number>>(MOST_KEPT);

/** The pages of a site for choosing, the most clicked first. */
export function pageChoices(context: SiteContext): PageChoice[] {
  const { db, site } = context;
  const pages = listPages(db, site.id);
  const clicks = recentClicks(context);
  const twins = new Twins(pages, clicks);
  const groups = pageAttribute(db, site.id, 'group');
  return pages
    .map(({ id, address }) => {
      const own = clicks.get(id) ?? null;
      const twin = own === null ? twins.of(address) : null;
      return {
        path: pagePath(address),
        clicks: own,
        twin: twin && pagePath(twin.address),
        group: groups.get(id) ?? null,
      };
    })
    .sort((a, b) => (b.clicks ?? -1) - (a.clicks ?? -1) || (a.path < b.path ? -1 : 1));
}

/** A page named by a change that has no search figures, while its twin has them. */
export type WrongTwin = { readonly address: string; readonly twin: string; readonly clicks: number };

/** The pages among some addresses that have no search figures while a twin of theirs has. */
export function wrongTwins(context: SiteContext, addresses: readonly string[]): WrongTwin[] {
  const { db, site } = context;
  const clicks = recentClicks(context);
  const without = addresses
    .flatMap((text) => addressOf(site, text) ?? [])
    .filter((address) => !clicks.has(pageOf(db, site, address)?.id ?? -1));
  if (without.length === 0) return [];
  const twins = new Twins(listPages(db, site.id), clicks);
  return without.flatMap((address) => {
    const twin = twins.of(address);
    return twin ? [{ address, twin: twin.address, clicks: twin.clicks }] : [];
  });
}

function addressOf(site: Site, text: string): string | null {
  try {
    return pageAddressOf(site, text);
  } catch {
    return null;
  }
}

/** Says of a page that its twin is meant. */
export function wrongTwinText({ address, twin, clicks }: WrongTwin): string {
  return `${pagePath(address)} has no search figures, and ${pagePath(twin)} has (${plural(clicks, 'click')} in the last ${count(DAYS)} days): name that one, or join the two under Addresses.`;
}

/** Cautions about the pages of a saved change, each by its field: those whose twin has the figures. */
export function twinCautions(context: SiteContext, pages: readonly PageRef[]): SavedCaution[] {
  const wrong = wrongTwins(
    context,
    pages.map(({ address }) => address),
  );
  return pages.flatMap(({ address }, i) => {
    const twin = wrong.find((one) => one.address === address);
    return twin ? [{ field: `pages.${i}`, message: wrongTwinText(twin) }] : [];
  });
}
