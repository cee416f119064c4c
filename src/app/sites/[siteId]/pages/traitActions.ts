'use server';

import { action } from '@/app/action';
import { mergedEdit } from '@/app/formResult';
import { editedFields } from '@/core/model/edits';
import { pageTraitsSchema } from '@/core/model/traits';
import { savePageTraits, traitsOfPage } from '@/store/traits/traits';

/** Says which search a page is meant for, what it matters to the business, and whether it is meant to sink. */
export const savePage = action(
  { on: 'page', may: 'edit', auditAction: 'described a page' },
  [pageTraitsSchema, pageTraitsSchema],
  async ({ db, page }, given, base) => {
    await savePageTraits(db, [page.id], editedFields(base, given), () =>
      mergedEdit(given, base, traitsOfPage(db, page.id)),
    );
    return null;
  },
);
