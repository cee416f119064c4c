'use server';

import { z } from 'zod';
import { action, question } from '@/app/action';
import { refuseConflict } from '@/app/formResult';
import { Problem } from '@/app/problem';
import { addressRulesSchema } from '@/core/model/addressRules';
import { joinInWorker, rekeyInWorker } from '@/jobs/inWorker';
import { isAddressOf, pageAddressOf } from '@/store/addresses/pages';
import { previewRules, rulesBefore, shortPreview } from '@/store/addresses/rekey';

/** Shows what rules would make of the addresses of a site. */
export const lookAtRules = question(
  { on: 'site', may: 'read' },
  [addressRulesSchema],
  ({ db, site }, rules) => shortPreview(previewRules(db, site, rules)),
);

/** Stores rules and gives all addresses their pages by them, from the rules that the edit began with. */
export const keepRules = action(
  { on: 'site', may: 'edit', auditAction: 'changed the rules of addresses' },
  [addressRulesSchema, addressRulesSchema],
  async ({ site }, rules, base) => {
    refuseConflict({ rules }, { rules: base }, { rules: site.rules });
    await rekeyInWorker(site.id, rules);
    return null;
  },
);

/** Puts the rules before the last edit back. */
export const undoLastRules = action(
  { on: 'site', may: 'edit', auditAction: 'took the last rules of addresses back' },
  [],
  async ({ db, site }) => {
    if (!rulesBefore(db, site.id)) throw new Problem(409, 'There are no rules from before.');
    await rekeyInWorker(site.id, null);
    return null;
  },
);

/** Joins an address to a page of the site by hand; null takes it back. */
export const join = action(
  { on: 'site', may: 'edit', auditAction: 'joined an address to a page' },
  [z.int().positive(), z.string().max(2048).nullable()],
  async ({ db, site }, addressId, page) => {
    if (!isAddressOf(db, site.id, addressId)) throw new Problem(404, 'There is no such address any more.');
    await joinInWorker(site.id, addressId, page === null ? null : pageAddressOf(site, page));
    return null;
  },
);
