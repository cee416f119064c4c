'use server';

import { revalidatePath } from 'next/cache';
import { asFormResult, type FormResult } from '@/app/formResult';
import { siteSettingsSchema, type SiteSettings } from '@/core/model/site';
import { database } from '@/store/database';
import { saveSiteSettings } from '@/store/sites';

/** Stores the settings of a site. */
export async function saveSettings(siteId: number, settings: SiteSettings): Promise<FormResult<null>> {
  return asFormResult(async () => {
    await saveSiteSettings(database(), siteId, siteSettingsSchema.parse(settings));
    revalidatePath('/sites', 'layout');
    return null;
  });
}
