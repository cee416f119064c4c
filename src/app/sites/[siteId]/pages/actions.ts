'use server';

import { z } from 'zod';
import { action } from '@/app/action';
import { Problem } from '@/app/problem';
import { lookAndSay, lookAtChange } from '@/jobs/lookNow';
import { startLooks } from '@/jobs/runner';
import { recordIfSeenOn } from '@/services/pages/titleChecks';
import { listPages } from '@/store/addresses/pages';
import { today } from '@/store/clock';
import { addSighting } from '@/store/evidence/sightings';
import { passOver, setWatched } from '@/store/evidence/snapshots';

/** Fetches a page now; gives a sentence of what came of it. */
export const lookNow = action(
  { on: 'page', may: 'edit', auditAction: 'fetched a page' },
  [],
  ({ site, page }) => lookAndSay(site.id, page),
);

/** Fetches the pages of a change, and asks the index about them where one answers. */
export const lookAfterChange = action(
  { on: 'change', may: 'edit', auditAction: 'fetched the pages of a change' },
  [],
  ({ site, change }) => lookAtChange(site.id, change.id),
);

/** Pages that are watched or no longer in one go: all of a large site. */
const MOST_PAGES = 20_000;

/** Says whether pages are fetched every day; those that are from now on are fetched soon. */
export const watch = action(
  { on: 'site', may: 'edit', auditAction: 'had a page watched, or not' },
  [z.array(z.int().positive()).max(MOST_PAGES), z.boolean()],
  async ({ db, site }, pageIds, watched) => {
    const known = new Set(listPages(db, site.id).map(({ id }) => id));
    if (!pageIds.every((id) => known.has(id)))
      throw new Problem(404, 'One of the pages is not there any more.');
    await setWatched(db, site.id, pageIds, watched);
    if (watched) startLooks();
    return null;
  },
);

/** Says of what a snapshot shows that it is nothing to log, or takes that back. */
export const passOverSnapshot = action(
  { on: 'snapshot', may: 'edit', auditAction: 'passed a difference over, or not' },
  [z.boolean()],
  async ({ db, site, snapshot }, passedOver) => {
    await passOver(db, site.id, snapshot.id, passedOver);
    return null;
  },
);

const titleSchema = z.string().trim().min(1, 'The title is empty.').max(2000, 'At most 2,000 characters.');

/** Writes down which title the results show for a page today; changes whose title it is were then seen. */
export const recordSighting = action(
  { on: 'page', may: 'log', auditAction: 'recorded a sighting' },
  [titleSchema],
  async ({ db, site, page }, title) => {
    await addSighting(db, page.id, { title, day: today(site.timeZone), since: null });
    await recordIfSeenOn(db, page.id);
    return null;
  },
);
