import { createHash, randomBytes } from 'node:crypto';
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { dataDir } from '../paths';
import { DatabaseRefused } from '../refused';

const SECRET_BYTES = 32;

/** Something long and random that opens a door, and the digest that is stored of it. */
export function newKey(prefix = ''): { key: string; digest: string } {
  const key = `${prefix}${randomBytes(SECRET_BYTES).toString('base64url')}`;
  return { key, digest: digestOf(key) };
}

/** SHA-256: its inputs are long and random, so a slow hash isn’t needed. */
export function digestOf(key: string): string {
  return createHash('sha256').update(key).digest('base64url');
}

/**
 * The secret that signs sessions and encrypts second factors: TALLY_SECRET, or a file beside the
 * database made on first use. Backups don’t contain it. Throws DatabaseRefused if TALLY_SECRET is
 * too short.
 */
export function installationSecret(): string {
  const told = process.env.TALLY_SECRET;
  if (told !== undefined && told !== '') {
    if (told.length < 32)
      throw new DatabaseRefused(
        'TALLY_SECRET must have at least 32 characters, such as openssl rand -hex 32.',
      );
    return told;
  }
  const file = path.join(dataDir(), 'secret');
  try {
    return readFileSync(file, 'utf8').trim();
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'ENOENT') throw error;
  }
  mkdirSync(dataDir(), { recursive: true, mode: 0o700 });
  // Another process may make it at the same moment: the first one counts.
  try {
    writeFileSync(file, `${randomBytes(SECRET_BYTES).toString('hex')}\n`, {
      mode: 0o600,
      flag: 'wx',
      flush: true,
    });
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error;
  }
  return readFileSync(file, 'utf8').trim();
}
