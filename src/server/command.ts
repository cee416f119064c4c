import path from 'node:path';
import { DatabaseRefused } from '../store/refused';

/** The file that a command names, from the folder in which it was typed. Throws DatabaseRefused where it names none. */
export function fileNamed(command: string, example = 'tally-backup.zip', most = 1): string {
  const [name, ...more] = process.argv.slice(2);
  if (!name || more.length >= most)
    throw new DatabaseRefused(`Name one file: npm run ${command} -- ${example}`);
  return path.resolve(process.env.INIT_CWD ?? '.', name);
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
