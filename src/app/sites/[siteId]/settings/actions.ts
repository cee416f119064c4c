'use server';

import { z } from 'zod';
import { action } from '@/app/action';
import { refuseConflict } from '@/app/formResult';
import { settingsOf, siteEditSchema } from '@/core/model/site';
import { findSite, saveSiteSettings } from '@/store/sites';

/** Stores those settings of a site that are given, from what stood there when the edit began. */
export const saveSettings = action(
  'site',
  [siteEditSchema, z.record(z.string(), z.unknown())],
  async ({ db, site }, edit, base) => {
    await saveSiteSettings(db, site.id, edit, () => {
      const now = settingsOf(findSite(db, site.id)!);
      refuseConflict(edit, base, now, now);
    });
    return null;
  },
);
