import { addressKey, resultsEvents, type ResultsEvent } from '../../core/wording/days';
import type { NewResultPage, Result, ResultPage } from '../../core/wording/resultPage';
import type { Change } from '../../core/model/change';
import type { Site } from '../../core/model/site';
import type { Db } from '../../store/database';
import { pageOf } from '../../store/addresses/pages';
import { addSighting, lastSighting } from '../../store/evidence/sightings';
import { queryIdOf } from '../../store/figures/queryIds';
import {
  findResultPage,
  keepResultPage,
  lookedUpQueries,
  resultPagesOf,
} from '../../store/wording/resultPages';
import type { SiteContext } from '../site/siteContext';
import { recordIfSeenOn } from '../pages/titleChecks';

/** Tells results of the site from those of others. */
export function ownResults({ address }: Pick<Site, 'address'>): (address: string) => boolean {
  const key = addressKey(address);
  return (result) => {
    const other = addressKey(result);
    return other === key || other.startsWith(`${key}/`);
  };
}

/** The first result of the site; null where it is not among them. */
export function ownResult(
  site: Pick<Site, 'address'>,
  { results }: Pick<ResultPage, 'results'>,
): Result | null {
  const own = ownResults(site);
  return results.find(({ address }) => own(address)) ?? null;
}

/**
 * Keeps what a search showed on a day, and what it shows of the site's own pages: their titles count as seen in the results, and a change
 * whose text is seen so has its step recorded.
 */
export async function bringInResultPage(db: Db, site: Site, given: NewResultPage): Promise<ResultPage> {
  const found = findResultPage(db, await keepResultPage(db, site.id, given))!;
  const own = ownResults(site);
  for (const { address, title } of found.results) {
    const page = own(address) ? pageOf(db, site, address) : null;
    if (!page) continue;
    const last = lastSighting(db, page.id);
    if (last && (last.day > found.day || (last.day === found.day && last.title === title))) continue;
    await addSighting(db, page.id, { title, day: found.day, since: null });
    await recordIfSeenOn(db, page.id);
  }
  return found;
}

/** What happened on the result pages of some queries of a site, from one look to the next, in the order of days. */
export function resultsEventsOf(
  db: Db,
  site: Site,
  queries: readonly string[],
): (ResultsEvent & { readonly query: string })[] {
  const own = ownResults(site);
  return queries
    .flatMap((query) => {
      const id = queryIdOf(db, site.id, query);
      if (id === null) return [];
      const pages = resultPagesOf(db, site.id, [id]);
      const devices = new Set(pages.map(({ device }) => device));
      return [...devices].flatMap((device) =>
        resultsEvents(
          pages.filter((page) => page.device === device),
          own,
        ).map((event) => ({ ...event, query })),
      );
    })
    .sort((a, b) => a.to - b.to);
}

/**
 * What happened on the result pages that a change is read beside: those of the queries it names, else those on which its pages were found,
 * as far as was known on the day as of which it is read.
 */
export function resultsEventsFor(
  { db, site, asOf }: SiteContext,
  { queries, pages }: Pick<Change, 'queries' | 'pages'>,
): (ResultsEvent & { readonly query: string })[] {
  const addresses = new Set(pages.map(({ address }) => addressKey(address)));
  const named =
    queries.length > 0
      ? queries
      : lookedUpQueries(db, site.id)
          .filter(({ newest }) =>
            findResultPage(db, newest)?.results.some(({ address }) => addresses.has(addressKey(address))),
          )
          .map(({ query }) => query.text);
  return resultsEventsOf(db, site, named).filter(({ to }) => asOf === null || to <= asOf);
}
