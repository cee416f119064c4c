'use server';

import { z } from 'zod';
import { action } from '@/app/action';
import { mergedEdit } from '@/app/formResult';
import { editedFields } from '@/core/model/edits';
import { lineText } from '@/core/model/fields';
import { savePageTraits, traitsOfPage } from '@/store/traits/traits';

const traitsSchema = z.strictObject({
  target: lineText().min(1).max(500).nullable(),
  weight: z.number('A number, please.').min(0).max(1000).nullable(),
  sink: z.boolean(),
});

/** Says which search a page is meant for, what it matters to the business, and whether it is meant to sink. */
export const savePage = action(
  { on: 'page', may: 'edit', did: 'described a page' },
  [traitsSchema, traitsSchema],
  async ({ db, page }, given, base) => {
    await savePageTraits(db, [page.id], editedFields(base, given), () =>
      mergedEdit(given, base, traitsOfPage(db, page.id)),
    );
    return null;
  },
);
