'use server';

import { z } from 'zod';
import { actionOnNothing } from '@/app/action';
import { ownAddress } from '@/app/ownAddress';
import { Problem } from '@/app/problem';
import { emailSchema } from '@/services/access/accounts';
import {
  dropSecondFactor,
  endSessions,
  findPerson,
  removePerson,
  setAdministrator,
  tellPerson,
} from '@/store/access/people';
import { invite, makeRecovery, withdrawPass } from '@/store/access/passes';
import type { Db } from '@/store/database';
import { routes } from '@/ui/shell/routes';

const idSchema = z.string().min(1).max(100);

function personNamed(db: Db, id: string) {
  const person = findPerson(db, id);
  if (!person) throw new Problem(404, 'There is no such account any more.');
  tellPerson(person);
  return person;
}

/** Invites somebody to own the whole installation; gives the link. */
export const inviteOwner = actionOnNothing(
  { may: 'administer', auditAction: 'invited an owner of the installation' },
  [emailSchema],
  async ({ db }, email) => {
    const { key } = await invite(db, { email, siteId: null, role: null });
    return `${await ownAddress()}${routes.pass(key)}`;
  },
);

/** Withdraws such an invitation, or a link for a new password. */
export const withdraw = actionOnNothing(
  { may: 'administer', auditAction: 'withdrew a link' },
  [z.int().positive()],
  async ({ db }, id) => {
    if (!(await withdrawPass(db, null, id))) throw new Problem(404, 'That link is over already.');
    return null;
  },
);

/** Makes a link by which somebody chooses a new password; gives the link. */
export const recoverPassword = actionOnNothing(
  { may: 'administer', auditAction: 'made a link for a new password' },
  [idSchema],
  async ({ db }, id) => {
    const { key } = await makeRecovery(db, personNamed(db, id).email);
    return `${await ownAddress()}${routes.pass(key)}`;
  },
);

/** Takes the second factor off an account that lost it. */
export const dropFactor = actionOnNothing(
  { may: 'administer', auditAction: 'took the second factor off an account' },
  [idSchema],
  async ({ db }, id) => {
    await dropSecondFactor(db, personNamed(db, id).id);
    return null;
  },
);

/** Makes somebody an owner of the installation, or not any longer. */
export const makeAdministrator = actionOnNothing(
  { may: 'administer', auditAction: 'said who owns the installation' },
  [idSchema, z.boolean()],
  async ({ db }, id, administrator) => {
    await setAdministrator(db, personNamed(db, id).id, administrator);
    return null;
  },
);

/** Ends all sessions of somebody. */
export const signOutEverywhere = actionOnNothing(
  { may: 'administer', auditAction: 'ended all sessions of an account' },
  [idSchema],
  async ({ db }, id) => {
    await endSessions(db, personNamed(db, id).id, { except: null });
    return null;
  },
);

/** Removes an account; what it did stays under its name. */
export const removeAccount = actionOnNothing(
  { may: 'administer', auditAction: 'removed an account' },
  [idSchema],
  async ({ db }, id) => {
    await removePerson(db, personNamed(db, id).id);
    return null;
  },
);
