'use server';

import { headers } from 'next/headers';
import { renderSVG } from 'uqr';
import { z } from 'zod';
import { actionOnNothing } from '@/app/action';
import { rememberDevice } from '@/app/rememberDevice';
import { personOf } from '@/app/person';
import { Problem } from '@/app/problem';
import {
  makeFirstAccount,
  newPersonSchema,
  passwordSchema,
  personNameSchema,
  rename,
} from '@/services/access/accounts';
import {
  beginSecondFactor,
  changePassword,
  confirmSecondFactor,
  endSecondFactor,
  signIn,
} from '@/services/access/signIn';
import { endSessions } from '@/store/access/people';

/** Makes the first account of all, for whoever is alone with the program, and signs it in. */
export const makeFirst = actionOnNothing(
  { may: 'administer', auditAction: 'made the first account' },
  [newPersonSchema],
  async ({ db, asker }, given) => {
    if (asker.kind !== 'alone') throw new Problem(409, 'There is an account already.');
    await makeFirstAccount(db, given);
    await rememberDevice((await signIn(db, await headers(), given)).device);
    return null;
  },
);

/** Changes what one is called. */
export const renameMe = actionOnNothing(
  { may: 'known', auditAction: 'changed their name' },
  [personNameSchema],
  async ({ db, asker }, name) => {
    await rename(db, personOf(asker).id, name);
    return null;
  },
);

/** Changes one's own password; all other sessions end. */
export const newPassword = actionOnNothing(
  { may: 'known', auditAction: 'changed their password' },
  [z.strictObject({ current: passwordSchema, password: passwordSchema })],
  async ({ db, asker }, given) => {
    await changePassword(db, await headers(), personOf(asker), given);
    return null;
  },
);

/** Begins a second factor: what a device is to be given, as a picture and as text, and the spare codes. */
export const beginFactor = actionOnNothing(
  { may: 'known', auditAction: 'began a second factor' },
  [passwordSchema],
  async ({ db, asker }, password) => {
    const { address, spare } = await beginSecondFactor(db, await headers(), personOf(asker), password);
    return {
      picture: `data:image/svg+xml;base64,${Buffer.from(renderSVG(address, { border: 2 })).toString('base64')}`,
      secret: new URL(address).searchParams.get('secret') ?? '',
      spare: [...spare],
    };
  },
);

/** Confirms a second factor by its first code; from then on it is asked for. */
export const confirmFactor = actionOnNothing(
  { may: 'known', auditAction: 'put a second factor on' },
  [z.string().trim().min(6, 'Six digits.').max(40, 'Six digits.')],
  async ({ db, asker }, code) => {
    await confirmSecondFactor(db, await headers(), personOf(asker), code);
    return null;
  },
);

/** Takes one's own second factor off. */
export const endFactor = actionOnNothing(
  { may: 'known', auditAction: 'took their second factor off' },
  [passwordSchema],
  async ({ db, asker }, password) => {
    await endSecondFactor(db, await headers(), personOf(asker), password);
    return null;
  },
);

/** Ends one of one's own sessions. */
export const endSession = actionOnNothing(
  { may: 'known', auditAction: 'ended a session' },
  [z.string().min(1).max(100)],
  async ({ db, asker }, id) => {
    await endSessions(db, personOf(asker).id, { id });
    return null;
  },
);

/** Ends all of one's own sessions but this one. */
export const endOtherSessions = actionOnNothing(
  { may: 'known', auditAction: 'ended all other sessions' },
  [],
  async ({ db, asker }) => {
    const { id, sessionId } = personOf(asker);
    await endSessions(db, id, { except: sessionId });
    return null;
  },
);
