'use server';

import { z } from 'zod';
import { foundOr404 } from '@/app/problem';
import { action } from '@/app/action';
import { listQueryFrom } from '@/core/lists/address';
import { ask } from '@/app/ask';
import { startLooks } from '@/jobs/runner';
import { listRequest } from '@/services/lists/fromQuery';
import { SiteContext } from '@/services/site/siteContext';
import { setWatched } from '@/store/evidence/snapshots';
import { dropFilter, keepFilter, newFilterSchema } from '@/store/traits/filters';

/** Keeps a filter under a name. */
export const keep = action(
  { on: 'site', may: 'edit', auditAction: 'kept a filter' },
  [newFilterSchema],
  async ({ db, site }, filter) => {
    await keepFilter(db, site.id, filter);
    return null;
  },
);

/** Keeps a filter no longer. */
export const drop = action(
  { on: 'site', may: 'edit', auditAction: 'dropped a filter' },
  [z.int().positive()],
  async ({ db, site }, id) => {
    return foundOr404(await dropFilter(db, site.id, id), 'filter');
  },
);

/** Says whether the pages that a list finds are fetched every day; those that are from now on are fetched soon. */
export const watchFound = action(
  { on: 'site', may: 'edit', auditAction: 'had pages watched, or not' },
  [z.string().max(2000), z.boolean()],
  async ({ db, site }, query, watched) => {
    const parameters = Object.fromEntries(new URLSearchParams(query));
    const wish = listRequest(new SiteContext(db, site), 'pages', listQueryFrom(parameters, 'pages'));
    const ids = wish && typeof wish !== 'string' ? await ask('found', { siteId: site.id, wish }) : [];
    await setWatched(db, site.id, ids, watched);
    if (watched) startLooks();
    return null;
  },
);
