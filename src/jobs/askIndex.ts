import { isoDay, type Day } from '../core/calendar/day';
import { isSame } from '../core/markup/titleCheck';
import { newTitleOf, type Change } from '../core/model/change';
import type { SearchIndex } from '../outside/searchIndex/searchIndex';
import { recordStep } from '../store/changes';
import type { Db } from '../store/database';
import { addSighting } from '../store/sightings';

/** What an index said of the pages of a change. */
export type IndexAnswer = {
  /** Pages that were crawled since the change was made, and that the results show with their new title. */
  readonly crawled: number;
  readonly shown: number;
  /** Steps that were recorded because of it. */
  readonly recorded: readonly ('crawled' | 'seen-in-results')[];
};

/**
 * Asks an index about the pages of a change: whether they were crawled since it was made, and what the results show. Keeps the
 * titles that were seen. Where all pages came to a step, and nobody recorded it yet, it is recorded with the day of the last.
 */
export async function askIndex(db: Db, change: Change, index: SearchIndex, today: Day): Promise<IndexAnswer> {
  const crawls: Day[] = [];
  const sights: Day[] = [];
  for (const { id, address } of change.pages) {
    const crawled = await index.crawledSince(address, change.day);
    if (crawled !== null) crawls.push(crawled);
    const shown = await index.shown(address);
    if (!shown) continue;
    await addSighting(db, id, { ...shown, day: today });
    const title = newTitleOf(change, id);
    if (title !== null && isSame(shown.title, title)) sights.push(shown.since ?? today);
  }
  const recorded: ('crawled' | 'seen-in-results')[] = [];
  for (const [step, days] of [
    ['crawled', crawls],
    ['seen-in-results', sights],
  ] as const) {
    if (days.length < change.pages.length || change.steps[step] !== undefined) continue;
    await recordStep(db, change.id, { step, day: isoDay(Math.max(...days) as Day) });
    recorded.push(step);
  }
  return { crawled: crawls.length, shown: sights.length, recorded };
}
