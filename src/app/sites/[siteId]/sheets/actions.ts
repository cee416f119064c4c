'use server';

import { z } from 'zod';
import { action } from '@/app/action';
import { foundOr404, Problem } from '@/app/problem';
import { listQueryFrom } from '@/core/lists/address';
import { lineText } from '@/core/model/fields';
import { ask } from '@/app/ask';
import { listRequest } from '@/services/lists/fromQuery';
import { SiteContext } from '@/services/site/siteContext';
import { today } from '@/store/clock';
import { keepSheet, setSheetDeleted } from '@/store/traits/sheets';

const MOST_PAGES = 500;

/** Makes a sheet of the pages that a list finds, and keeps it; gives its number. */
export const makeSheet = action(
  { on: 'site', may: 'edit', auditAction: 'made a sheet' },
  [lineText().min(1, 'The sheet needs a name.').max(80), z.string().max(2000)],
  async ({ db, site }, name, query) => {
    const context = new SiteContext(db, site);
    const parameters = Object.fromEntries(new URLSearchParams(query));
    const wish = listRequest(context, 'pages', listQueryFrom(parameters, 'pages'));
    if (!wish || typeof wish === 'string') throw new Problem(409, wish ?? 'There are no daily figures yet.');
    const pageIds = await ask('found', { siteId: site.id, wish });
    if (pageIds.length === 0) throw new Problem(422, 'The list finds no page.');
    if (pageIds.length > MOST_PAGES)
      throw new Problem(
        422,
        `A sheet has at most ${MOST_PAGES} pages; these are ${pageIds.length}. Narrow the list first.`,
      );
    const lines = await ask('sheet', { siteId: site.id, pageIds, spans: wish.spans });
    const { firstDay, lastDay } = wish.spans.now;
    return keepSheet(
      db,
      { siteId: site.id, name, day: today(site.timeZone), firstDay, lastDay, pageIds },
      lines ?? [],
    );
  },
);

/** Takes a sheet away, or puts it back. */
export const dropSheet = action(
  { on: 'site', may: 'edit', auditAction: 'deleted a sheet' },
  [z.int().positive(), z.boolean()],
  async ({ db, site }, id, deleted) => {
    return foundOr404(await setSheetDeleted(db, site.id, id, deleted), 'sheet');
  },
);
