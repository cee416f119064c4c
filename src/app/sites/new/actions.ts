'use server';

import { revalidatePath } from 'next/cache';
import { newSiteSchema, type NewSite } from '@/core/model/site';
import { database } from '@/store/database';
import { addSite } from '@/store/sites';
import { asFormResult, type FormResult } from '@/app/formResult';

/** Adds a site and gives its id. */
export async function addNewSite(input: NewSite): Promise<FormResult<number>> {
  return asFormResult(async () => {
    const site = await addSite(database(), newSiteSchema.parse(input));
    revalidatePath('/sites', 'layout');
    return site.id;
  });
}
