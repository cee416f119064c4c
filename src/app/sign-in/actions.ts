'use server';

import { cookies, headers } from 'next/headers';
import { z } from 'zod';
import { actionOnNothing } from '@/app/action';
import { emailSchema, passwordSchema } from '@/services/access/accounts';
import type { DeviceCookie } from '@/services/access/knownDevices';
import { signIn, signInByCode, signOut } from '@/services/access/signIn';

async function remember({ name, value, ...options }: DeviceCookie): Promise<void> {
  (await cookies()).set(name, value, options);
}

/** Signs in by address and password; says whether a code is wanted yet. */
export const enter = actionOnNothing(
  { may: 'anybody' },
  [z.strictObject({ email: emailSchema, password: passwordSchema })],
  async ({ db }, given) => {
    const { codeWanted, device } = await signIn(db, await headers(), given);
    if (device) await remember(device);
    return { codeWanted };
  },
);

/** The second step: a code. */
export const enterByCode = actionOnNothing(
  { may: 'anybody' },
  [z.string().trim().min(1, 'Which code?').max(40, 'A code is not as long as this.')],
  async ({ db }, code) => {
    await remember(await signInByCode(db, await headers(), code));
    return null;
  },
);

/** Ends the session in which this is asked. */
export const leave = actionOnNothing({ may: 'known' }, [], async ({ db }) => {
  await signOut(db, await headers());
  return null;
});
