import type { Day } from '../core/calendar/day';
import { readPage } from '../core/markup/page';
import type { PageRef } from '../core/model/change';
import type { Site } from '../core/model/site';
import { AddressRefused } from '../outside/http/address';
import { AskFailed, type Get } from '../outside/http/get';
import { fetchSitePage, NoPage } from '../outside/sitePages/page';
import { RobotsRefuse } from '../outside/sitePages/robots';
import type { Db } from '../store/database';
import { keepFailure, keepSnapshot } from '../store/evidence/snapshots';

/** What came of looking at a page: the snapshot that stands now, or why it could not be fetched. */
export type Looked = { readonly snapshotId: number } | { readonly failure: string };

/** Fetches a page of a site and keeps its content. Failures are recorded with the page. */
export async function lookAtPage(db: Db, site: Site, page: PageRef, get: Get, day: Day): Promise<Looked> {
  try {
    const evidence = await readPage(await fetchSitePage(get, page.address, site.privateHosts));
    const { id } = await keepSnapshot(db, site.id, page.id, evidence, day);
    return { snapshotId: id };
  } catch (error) {
    const known = [AddressRefused, AskFailed, NoPage, RobotsRefuse].some((kind) => error instanceof kind);
    if (!known) throw error;
    const failure = (error as Error).message;
    await keepFailure(db, site.id, page.id, failure);
    return { failure };
  }
}
