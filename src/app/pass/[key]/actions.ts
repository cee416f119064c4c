'use server';

import { headers } from 'next/headers';
import { z } from 'zod';
import { actionOnNothing } from '@/app/action';
import { rememberDevice } from '@/app/rememberDevice';
import { Problem } from '@/app/problem';
import {
  acceptInvitation,
  joinWith,
  passwordSchema,
  personNameSchema,
  recover,
} from '@/services/access/accounts';
import { signIn } from '@/services/access/signIn';
import { lineText } from '@/core/model/fields';

const keySchema = lineText().min(1).max(100);

/** Makes the account that an invitation is for, and signs it in. */
export const accept = actionOnNothing(
  { may: 'anybody', auditAction: 'took up an invitation' },
  [keySchema, z.strictObject({ name: personNameSchema, password: passwordSchema })],
  async ({ db }, key, given) => {
    const { email } = await acceptInvitation(db, key, given);
    const { device } = await signIn(db, await headers(), { email, password: given.password });
    await rememberDevice(device);
    return null;
  },
);

/** Takes up an invitation with the account that is signed in. */
export const join = actionOnNothing(
  { may: 'known', auditAction: 'took up an invitation' },
  [keySchema],
  async ({ db, asker }, key) => {
    if (asker.kind !== 'person') throw new Problem(409, 'Sign in first.');
    await joinWith(db, key, asker);
    return null;
  },
);

/** Chooses a new password by a link that was made for it. */
export const choosePassword = actionOnNothing(
  { may: 'anybody', auditAction: 'chose a new password by a link' },
  [keySchema, passwordSchema],
  async ({ db }, key, password) => {
    await recover(db, key, password);
    return null;
  },
);
