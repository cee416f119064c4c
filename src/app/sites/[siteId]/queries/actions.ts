'use server';

import { z } from 'zod';
import { action } from '@/app/action';
import { mergedEdit } from '@/app/formResult';
import { editedFields } from '@/core/model/edits';
import { Problem } from '@/app/problem';
import { INTENTS } from '@/core/model/intents';
import { findPage } from '@/store/addresses/pages';
import { saveQueryTraits, traitsOfQuery } from '@/store/traits/traits';

const traitsSchema = z.strictObject({
  targetPageId: z.int().positive().nullable(),
  intent: z.enum(INTENTS).nullable(),
  brand: z.boolean().nullable(),
});

/** Says of a query what it is after, whether it is for the site itself, and which page is meant for it. */
export const saveQuery = action(
  { on: 'query', may: 'edit', did: 'described a query' },
  [traitsSchema, traitsSchema],
  async ({ db, site, asked }, given, base) => {
    if (given.targetPageId !== null && !findPage(db, site.id, given.targetPageId))
      throw new Problem(404, 'That page is not there any more.');
    await saveQueryTraits(db, [asked.id], editedFields(base, given), () =>
      mergedEdit(given, base, traitsOfQuery(db, asked.id)),
    );
    return null;
  },
);
