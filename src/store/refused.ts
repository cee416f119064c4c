import { namedError } from '../core/errors';

/**
 * The database or its folder can’t be used as it is. The message is for whoever started the
 * program.
 */
export class DatabaseRefused extends namedError('DatabaseRefused') {}

/** What the operating system or SQLite says, by its code, and what somebody can do about it. */
const SENTENCES: readonly [code: RegExp, sentence: (what: string) => string][] = [
  [
    /^(?:ENOSPC|EDQUOT|SQLITE_FULL)/,
    (what) =>
      `${what}: there is no room left on the disk. Make room and try again; what was there is as it was.`,
  ],
  [
    /^(?:EROFS|SQLITE_READONLY)/,
    (what) =>
      `${what} can only be read. Name a folder that can be written to in TALLY_DATA_DIR, or allow writing to it.`,
  ],
  [
    /^(?:EACCES|EPERM|SQLITE_CANTOPEN|SQLITE_PERM)/,
    (what) =>
      `This user may not read and write ${what}. Give it to the user who runs the program, or name another folder in TALLY_DATA_DIR.`,
  ],
  [
    /^(?:ENOTDIR|EEXIST)/,
    (what) =>
      `${what} cannot be the folder of the data: a file stands in its place. Name another one in TALLY_DATA_DIR.`,
  ],
  [/^(?:SQLITE_CORRUPT|SQLITE_NOTADB)/, (what) => damaged(what, 'SQLite cannot read it')],
  [
    /^(?:EIO|SQLITE_IOERR)/,
    (what) => `The disk of ${what} fails to read or write. See to the disk before anything else.`,
  ],
];

/** The sentence about a database file that is damaged. */
export function damaged(file: string, how: string): string {
  return `The database ${file} is damaged: ${how}. Put a backup back with npm run restore -- FILE, which keeps the damaged file aside. Nothing was changed.`;
}

/** A disk or SQLite error as a sentence that names its subject; others unchanged. */
export function asRefusal(error: unknown, what: string): unknown {
  const code: unknown = typeof error === 'object' && error !== null && 'code' in error ? error.code : null;
  if (typeof code !== 'string') return error;
  const sentence = SENTENCES.find(([pattern]) => pattern.test(code))?.[1];
  return sentence ? new DatabaseRefused(sentence(what)) : error;
}
