'use server';

import { z } from 'zod';
import { action } from '@/app/action';
import { lineText } from '@/core/model/fields';
import { savePageTraits } from '@/store/traits/traits';

/** Says which search a page is meant for, what it matters to the business, and whether it is meant to sink. */
export const savePage = action(
  { on: 'page', may: 'edit', did: 'described a page' },
  [
    z.strictObject({
      target: lineText().min(1).max(500).nullable(),
      weight: z.number('A number, please.').min(0).max(1000).nullable(),
      sink: z.boolean(),
    }),
  ],
  async ({ db, page }, edit) => {
    await savePageTraits(db, [page.id], edit);
    return null;
  },
);
