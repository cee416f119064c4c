'use server';

import { headers } from 'next/headers';
import { z } from 'zod';
import { actionOnNothing } from '@/app/action';
import { rememberDevice } from '@/app/rememberDevice';
import { emailSchema, passwordSchema } from '@/services/access/accounts';
import { signIn, signInByCode, signOut } from '@/services/access/signIn';

/** Signs in by address and password; says whether a code is wanted yet. */
export const enter = actionOnNothing(
  { may: 'anybody' },
  [z.strictObject({ email: emailSchema, password: passwordSchema })],
  async ({ db }, given) => {
    const { codeWanted, device } = await signIn(db, await headers(), given);
    await rememberDevice(device);
    return { codeWanted };
  },
);

/** The second step: a code. */
export const enterByCode = actionOnNothing(
  { may: 'anybody' },
  [z.string().trim().min(1, 'Which code?').max(40, 'A code is not as long as this.')],
  async ({ db }, code) => {
    await rememberDevice(await signInByCode(db, await headers(), code));
    return null;
  },
);

/** Ends the session in which this is asked. */
export const leave = actionOnNothing({ may: 'known' }, [], async ({ db }) => {
  await signOut(db, await headers());
  return null;
});
