import { readdirSync, realpathSync, statSync } from 'node:fs';
import path from 'node:path';
import { dataDir } from '../store/paths';
import { DatabaseRefused } from '../store/refused';

/** Option that allows a command to overwrite an existing file. */
const REPLACE = '--replace';

/** The arguments of the command without its options. */
export function namedAfter(): string[] {
  return process.argv.slice(2).filter((one) => one !== REPLACE);
}

/** The file that a command names, from the folder in which it was typed. Throws DatabaseRefused where it names none. */
export function fileNamed(command: string, example = 'tally-backup.zip', most = 1): string {
  const [name, ...more] = namedAfter();
  if (!name || more.length >= most)
    throw new DatabaseRefused(`Name one file: npm run ${command} -- ${example}`);
  return path.resolve(process.env.INIT_CWD ?? '.', name);
}

/**
 * Returns the file that a command writes, see `fileNamed`. Throws DatabaseRefused if the file is in
 * the data folder, also by a link, or if it exists and `--replace` is not given.
 */
export function targetNamed(command: string, example?: string, most?: number): string {
  const file = fileNamed(command, example, most);
  const folder = realPath(path.dirname(file));
  const data = realPath(dataDir());
  if (folder === data || folder.startsWith(data + path.sep) || isOneOf(file, data))
    throw new DatabaseRefused(`${file} is in the data folder (${data}). Choose a file somewhere else.`);
  if (statSync(file, { throwIfNoEntry: false }) && !process.argv.includes(REPLACE))
    throw new DatabaseRefused(
      `${file} already exists. Choose another name, or add ${REPLACE} to overwrite it.`,
    );
  return file;
}

/** Resolves links; returns the path unchanged if it does not exist. */
function realPath(name: string): string {
  try {
    return realpathSync(name);
  } catch {
    return name;
  }
}

/** Whether a file is a hard or soft link to one in a folder. */
function isOneOf(file: string, folder: string): boolean {
  const known = statSync(file, { throwIfNoEntry: false });
  if (!known?.isFile()) return false;
  return readdirSync(folder, { recursive: true, encoding: 'utf8' }).some((name) => {
    const own = statSync(path.join(folder, name), { throwIfNoEntry: false });
    return own?.ino === known.ino && own.dev === known.dev;
  });
}

/** What one row of a table is called, where that is not the name of the table. */
const ONE = new Map([['figures', 'piece of figures']]);
const MANY = new Map([['figures', 'pieces of figures']]);

/** Numbers of things as words: "1 site, 31 changes and 2 imports". */
export function told(counts: Readonly<Record<string, number>>): string {
  const parts = Object.entries(counts).map(([thing, n]) => {
    const name = n === 1 ? (ONE.get(thing) ?? thing) : (MANY.get(thing) ?? `${thing}s`);
    return `${n.toLocaleString('en-GB')} ${name}`;
  });
  return new Intl.ListFormat('en-GB').format(parts);
}
