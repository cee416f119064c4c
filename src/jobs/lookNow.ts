import { pagePath } from '../core/address/address';
import { kindsOf } from '../core/markup/differences';
import type { PageRef } from '../core/model/change';
import { mediumDay, plural } from '../core/words/format';
import { today } from '../store/clock';
import { database } from '../store/database';
import { findSnapshot } from '../store/evidence/snapshots';
import { findChange } from '../store/ledger/findChanges';
import { findSite } from '../store/sites';
import { askIndex } from './askIndex';
import { reachIndex } from './outsideWorld';
import { lookInWorker } from './inWorker';

/** Fetches a page now; gives a sentence of what came of it. */
export async function lookAndSay(siteId: number, page: PageRef): Promise<string> {
  const looked = await lookInWorker(siteId, page);
  if ('failure' in looked) return looked.failure;
  const snapshot = findSnapshot(database(), looked.snapshotId);
  if (!snapshot || snapshot.differences === null) return 'Fetched for the first time.';
  return snapshot.takenAt === snapshot.lastSeenAt
    ? `Fetched: ${kindsOf(snapshot.differences).toLowerCase()}.`
    : `Fetched: as it has been since ${mediumDay(snapshot.day)}.`;
}

/** Pages of one change that are fetched at once at most. */
const MOST_AT_ONCE = 20;

/**
 * Fetches the pages of a change, asks the index about them if there is one, and returns a sentence
 * on the outcome.
 */
export async function lookAtChange(siteId: number, changeId: number): Promise<string> {
  const db = database();
  const site = findSite(db, siteId);
  const change = findChange(db, changeId);
  if (!site || change?.siteId !== siteId) return 'There is no such change any more.';
  const pages = change.pages.slice(0, MOST_AT_ONCE);
  const said: string[] = [];
  for (const page of pages) {
    const one = await lookAndSay(siteId, page);
    said.push(pages.length === 1 ? one : `${pagePath(page.address)}: ${one}`);
  }
  const fetched = pages.length === 1 ? said[0]! : `${plural(pages.length, 'page')} fetched.`;
  const index = reachIndex(db, site);
  const answer = index && (await askIndex(db, change, index, today(site.timeZone)));
  if (!answer) return fetched;
  const crawled =
    answer.crawled === change.pages.length
      ? 'crawled since'
      : `${answer.crawled} of ${plural(change.pages.length, 'page')} crawled since`;
  return `${fetched} The index says: ${answer.crawled === 0 ? 'not crawled yet' : crawled}.`;
}
