'use server';

import { z } from 'zod';
import { action } from '@/app/action';
import { Problem } from '@/app/problem';
import { lineText } from '@/core/model/fields';
import { listPages } from '@/store/addresses/pages';
import { nameGroup } from '@/store/figures/movingGroups';

/** Pages of one group at most. */
const MOST_PAGES = 20_000;

/** Names a group of pages that move together; an empty name gives it back the one it had by itself. */
export const renameGroup = action(
  { on: 'site', may: 'edit', auditAction: 'renamed a group' },
  [
    z.array(z.int().positive()).min(1).max(MOST_PAGES),
    z.union([z.literal(''), lineText().max(80, 'At most 80 characters.')]),
  ],
  async ({ db, site }, pageIds, name) => {
    const known = new Set(listPages(db, site.id).map(({ id }) => id));
    if (!pageIds.every((id) => known.has(id)))
      throw new Problem(404, 'One of the pages is not there any more.');
    await nameGroup(db, site.id, pageIds, name);
    return null;
  },
);
