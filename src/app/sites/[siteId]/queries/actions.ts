'use server';

import { action } from '@/app/action';
import { mergedEdit } from '@/app/formResult';
import { queryTraitsSchema } from '@/core/model/traits';
import { editedFields } from '@/core/model/edits';
import { Problem } from '@/app/problem';
import { findPage } from '@/store/addresses/pages';
import { saveQueryTraits, traitsOfQuery } from '@/store/traits/traits';

/** Says of a query what it is after, whether it is for the site itself, and which page is meant for it. */
export const saveQuery = action(
  { on: 'query', may: 'edit', auditAction: 'described a query' },
  [queryTraitsSchema, queryTraitsSchema],
  async ({ db, site, asked }, given, base) => {
    if (given.targetPageId !== null && !findPage(db, site.id, given.targetPageId))
      throw new Problem(404, 'That page is not there any more.');
    await saveQueryTraits(db, [asked.id], editedFields(base, given), () =>
      mergedEdit(given, base, traitsOfQuery(db, asked.id)),
    );
    return null;
  },
);
