'use server';

import { revalidatePath } from 'next/cache';
import { asFormResult, type FormResult } from '@/app/formResult';
import { addressRulesSchema, type AddressRules } from '@/core/address/rules';
import { joinInWorker, rekeyInWorker } from '@/jobs/runner';
import { database } from '@/store/database';
import { previewRules, shortPreview, type RulesPreview } from '@/store/addresses/rekey';
import { findSite } from '@/store/sites';

/** Shows what rules would make of the addresses of a site. */
export async function lookAtRules(siteId: number, rules: AddressRules): Promise<FormResult<RulesPreview>> {
  return asFormResult(async () => {
    const db = database();
    const site = findSite(db, siteId);
    if (!site) throw new Error(`There is no site ${siteId}.`);
    return shortPreview(previewRules(db, site, addressRulesSchema.parse(rules)));
  });
}

/** Stores rules and gives all addresses their pages by them; null puts the rules before back. */
export async function keepRules(siteId: number, rules: AddressRules | null): Promise<FormResult<null>> {
  return asFormResult(async () => {
    await rekeyInWorker(siteId, rules && addressRulesSchema.parse(rules));
    revalidatePath('/sites', 'layout');
    return null;
  });
}

/** Joins an address to a page by hand; null takes it back. */
export async function join(siteId: number, addressId: number, page: string | null): Promise<void> {
  await joinInWorker(siteId, addressId, page);
  revalidatePath('/sites', 'layout');
}
