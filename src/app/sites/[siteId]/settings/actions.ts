'use server';

import { z } from 'zod';
import { action } from '@/app/action';
import { authorizePrivateHosts } from '@/app/authorize';
import { refuseConflict } from '@/app/formResult';
import { LANGUAGES } from '@/core/model/languages';
import { WORD_PURPOSES, wordListSchema } from '@/core/words/purposes';
import { settingsOf, siteEditSchema } from '@/core/model/site';
import { saveResultsAccess } from '@/store/wording/access';
import { resultsAccessSchema } from '@/core/model/resultsAccess';
import { saveSiteWords } from '@/store/words';
import { findSite, saveSiteSettings, setSiteDeleted } from '@/store/sites';

/** Stores those settings of a site that are given, from what stood there when the edit began. */
export const saveSettings = action(
  { on: 'site', may: 'own', auditAction: 'changed settings' },
  [siteEditSchema, z.record(z.string(), z.unknown())],
  async ({ db, site, asker }, edit, base) => {
    // One that was allowed before may stay, and may go.
    const more = (edit.privateHosts ?? []).some((host) => !site.privateHosts.includes(host));
    authorizePrivateHosts(asker, more, 'privateHosts');
    await saveSiteSettings(db, site.id, edit, () => {
      const now = settingsOf(findSite(db, site.id)!);
      refuseConflict(edit, base, now);
    });
    return null;
  },
);

/** Keeps the words of a site's language by what they are for. */
export const saveWords = action(
  { on: 'site', may: 'edit', auditAction: 'changed words of the language' },
  [z.enum(LANGUAGES), z.partialRecord(z.enum(WORD_PURPOSES), wordListSchema)],
  async ({ db, site }, language, words) => {
    await saveSiteWords(db, site.id, language, words);
    return null;
  },
);

/** Keeps where result pages are asked for; a token that is not given stays. */
export const saveResultsSource = action(
  { on: 'site', may: 'own', auditAction: 'set where result pages are asked for' },
  [resultsAccessSchema],
  async ({ db, site }, access) => {
    await saveResultsAccess(db, site.id, access);
    return null;
  },
);

/** Deletes a site; for thirty days it can be put back. */
export const deleteSite = action(
  { on: 'site', may: 'own', auditAction: 'deleted the site' },
  [],
  async ({ db, site }) => {
    await setSiteDeleted(db, site.id, true);
    return null;
  },
);
