'use server';

import { z } from 'zod';
import { action } from '@/app/action';
import { Problem } from '@/app/problem';
import { INTENTS } from '@/core/lists/intent';
import { findPage } from '@/store/addresses/pages';
import { saveQueryTraits } from '@/store/traits/traits';

/** Says of a query what it is after, whether it is for the site itself, and which page is meant for it. */
export const saveQuery = action(
  { on: 'query', may: 'edit', did: 'described a query' },
  [
    z.strictObject({
      targetPageId: z.int().positive().nullable(),
      intent: z.enum(INTENTS).nullable(),
      brand: z.boolean().nullable(),
    }),
  ],
  async ({ db, site, asked }, edit) => {
    if (edit.targetPageId !== null && !findPage(db, site.id, edit.targetPageId))
      throw new Problem(404, 'That page is not there any more.');
    await saveQueryTraits(db, [asked.id], edit);
    return null;
  },
);
