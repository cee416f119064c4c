'use server';

import { actionOnNothing } from '@/app/action';
import { newSiteSchema } from '@/core/model/site';
import { addSite } from '@/store/sites';

/** Adds a site and gives its id. */
export const addNewSite = actionOnNothing(
  [newSiteSchema],
  async ({ db }, input) => (await addSite(db, input)).id,
);
