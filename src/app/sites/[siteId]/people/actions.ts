'use server';

import { z } from 'zod';
import { action } from '@/app/action';
import { ownAddress } from '@/app/ownAddress';
import { Problem } from '@/app/problem';
import { ROLES } from '@/core/access/rights';
import { newLinkSchema, SHARED } from '@/core/access/readOnlyLink';
import { emailSchema } from '@/services/access/accounts';
import { share } from '@/services/access/shareLinks';
import { findPerson, setRole, tellPerson } from '@/store/access/people';
import { invite, withdrawPass } from '@/store/access/passes';
import { endToken, makeToken, newTokenSchema } from '@/store/access/tokens';
import { withdrawLink } from '@/store/access/links';
import { routes } from '@/ui/shell/routes';

const numberSchema = z.int().positive();

/** Invites somebody to a site with a role; gives the link. */
export const inviteTo = action(
  { on: 'site', may: 'own', auditAction: 'invited somebody' },
  [z.strictObject({ email: emailSchema, role: z.enum(ROLES) })],
  async ({ db, site, asker }, { email, role }) => {
    if (asker.kind === 'alone') throw new Problem(409, 'Make an account of your own first.');
    const { key } = await invite(db, { email, siteId: site.id, role });
    return `${await ownAddress()}${routes.pass(key)}`;
  },
);

/** Withdraws an invitation to a site. */
export const withdrawFrom = action(
  { on: 'site', may: 'own', auditAction: 'withdrew an invitation' },
  [numberSchema],
  async ({ db, site }, id) => {
    if (!(await withdrawPass(db, site.id, id))) throw new Problem(404, 'That invitation is over already.');
    return null;
  },
);

/** Gives somebody another role on a site, or none. */
export const giveRole = action(
  { on: 'site', may: 'own', auditAction: 'gave somebody another role, or none' },
  [z.string().min(1).max(100), z.enum(ROLES).nullable()],
  async ({ db, site }, userId, role) => {
    const person = findPerson(db, userId);
    if (!person) throw new Problem(404, 'There is no such account any more.');
    tellPerson(person);
    await setRole(db, site.id, userId, role);
    return null;
  },
);

/** Makes a token for scripts; gives what opens, once. */
export const newToken = action(
  { on: 'site', may: 'own', auditAction: 'made a token' },
  [newTokenSchema],
  async ({ db, site, asker }, given) => {
    if (asker.kind === 'alone')
      throw new Problem(
        409,
        'As long as nobody has an account, scripts need no token. Make an account first.',
      );
    return (await makeToken(db, site.id, given)).key;
  },
);

/** Ends a token. */
export const stopToken = action(
  { on: 'site', may: 'own', auditAction: 'ended a token' },
  [numberSchema],
  async ({ db, site }, id) => {
    if (!(await endToken(db, site.id, id))) throw new Problem(404, 'That token was ended already.');
    return null;
  },
);

/** Makes a read-only link to a report, a reading or a round; gives the link, once. */
export const shareThing = action(
  { on: 'site', may: 'edit', auditAction: 'made a read-only link' },
  [z.enum(SHARED), numberSchema, newLinkSchema],
  async ({ db, site }, of, id, given) => {
    const { key } = await share(db, site.id, { of, id }, given);
    return `${await ownAddress()}${routes.shared(key)}`;
  },
);

/** Withdraws a read-only link. */
export const unshare = action(
  { on: 'site', may: 'edit', auditAction: 'withdrew a read-only link' },
  [numberSchema],
  async ({ db, site }, id) => {
    if (!(await withdrawLink(db, site.id, id))) throw new Problem(404, 'That link was withdrawn already.');
    return null;
  },
);
