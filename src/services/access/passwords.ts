import { hash, verify, type Options } from '@node-rs/argon2';
import { passwordProblem } from '../../core/access/password';
import { InputError } from '../../store/inputError';

/**
 * Argon2id with 19 MiB, two passes and one lane: the minimum of OWASP’s password storage cheat
 * sheet.
 */
const OPTIONS: Options = { algorithm: 2, memoryCost: 19_456, timeCost: 2, parallelism: 1 };

export const hashPassword = (password: string): Promise<string> => hash(password, OPTIONS);

/** Whether a password is the one of a digest; a digest that cannot be read is nobody's. */
export async function isPassword(digest: string, password: string): Promise<boolean> {
  return verify(digest, password).catch(() => false);
}

let common: Promise<ReadonlySet<string>> | null = null;

/** The 49,000 passwords that are tried first; they ship with the program. */
const commonPasswords = () =>
  (common ??= import('@zxcvbn-ts/language-common').then(
    ({ dictionary }) => new Set((dictionary['passwords-common'] as string[]).map((one) => one.toLowerCase())),
  ));

/** Throws InputError where a password is not to be taken from somebody. */
export async function refuseWeak(password: string, own: readonly string[]): Promise<void> {
  const problem = passwordProblem(password, await commonPasswords(), own);
  if (problem !== null) throw new InputError('password', problem);
}
