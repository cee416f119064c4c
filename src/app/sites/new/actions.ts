'use server';

import { z } from 'zod';
import { actionOnNothing } from '@/app/action';
import { may } from '@/core/access/rights';
import { newSiteSchema } from '@/core/model/site';
import { Problem } from '@/app/problem';
import { addSite, deletedSites, setSiteDeleted } from '@/store/sites';

/** Adds a site and gives its id. */
export const addNewSite = actionOnNothing(
  { may: 'administer', auditAction: 'added a site' },
  [newSiteSchema],
  async ({ db }, input) => (await addSite(db, input)).id,
);

/** Puts a site back that was deleted. */
export const putBackSite = actionOnNothing(
  { may: 'known', auditAction: 'put a site back' },
  [z.int().positive()],
  async ({ db, asker }, id) => {
    const there = may(asker, 'own', id) && deletedSites(db).some((one) => one.id === id);
    if (!there || !(await setSiteDeleted(db, id, false)))
      throw new Problem(404, 'That site is not among those that can be put back.');
    return null;
  },
);
