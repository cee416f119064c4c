import { isoDay, type Day } from '../core/calendar/day';
import type { Change } from '../core/model/change';
import type { SearchIndex } from '../outside/searchIndex/searchIndex';
import { recordStep } from '../store/ledger/changes';
import { findChange } from '../store/ledger/findChanges';
import type { Db } from '../store/database';
import { addSighting } from '../store/evidence/sightings';
import { recordIfSeen } from '../services/pages/titleChecks';

/** What an index said of the pages of a change. */
export type IndexAnswer = {
  /** Pages that were crawled since the change was made. */
  readonly crawled: number;
  /** Steps that were recorded because of it. */
  readonly recorded: readonly ('crawled' | 'seen-in-results')[];
};

/**
 * Asks an index about the pages of a change: whether they were crawled since, and what results
 * show. Keeps the titles seen. A step that all pages reached and nobody recorded is recorded, with
 * the day of the last.
 */
export async function askIndex(db: Db, change: Change, index: SearchIndex, today: Day): Promise<IndexAnswer> {
  const crawls: Day[] = [];
  for (const { id, address } of change.pages) {
    const crawled = await index.crawledSince(address, change.day);
    if (crawled !== null) crawls.push(crawled);
    const shown = await index.shown(address);
    if (shown) await addSighting(db, id, { ...shown, day: today });
  }
  const recorded: ('crawled' | 'seen-in-results')[] = [];
  if (crawls.length === change.pages.length && change.steps.crawled === undefined) {
    await recordStep(db, change.id, { step: 'crawled', day: isoDay(Math.max(...crawls) as Day) });
    recorded.push('crawled');
  }
  if (await recordIfSeen(db, findChange(db, change.id) ?? change)) recorded.push('seen-in-results');
  return { crawled: crawls.length, recorded };
}
