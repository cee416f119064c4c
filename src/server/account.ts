import { createInterface } from 'node:readline/promises';
import { Writable } from 'node:stream';
import { z } from 'zod';
import { makeOwner, newPersonSchema } from '../services/access/accounts';
import { dropSecondFactor, listPeople, personByEmail, siteNamesOf } from '../store/access/people';
import { makeRecovery, RECOVERY_HOURS } from '../store/access/passes';
import { publicAddress } from '../store/access/publicAddress';
import { bringForward, connect, type Db, disconnect } from '../store/database';
import { checkDatabaseFile } from '../store/folder';
import { InputError } from '../store/inputError';
import { databaseFile } from '../store/paths';
import { DatabaseRefused } from '../store/refused';
import { portFrom } from './port';

const HOW = `npm run account -- owner you@your.example [NAME]   makes an account that owns the whole installation
npm run account -- recover you@your.example         makes a link for a new password
npm run account -- drop-factor you@your.example     takes a second factor off that was lost
npm run account -- list                             says who has an account`;

/** Asks for a password without showing it; where nobody sits there, it is the first line of what is piped in. */
async function askPassword(): Promise<string> {
  const shown = process.stdin.isTTY;
  const silent = new Writable({ write: (_piece, _encoding, done) => done() });
  const lines = createInterface({ input: process.stdin, output: silent, terminal: shown });
  if (shown) process.stdout.write('Password (at least 12 characters; three or four words will do): ');
  try {
    return shown ? await lines.question('') : ((await lines[Symbol.asyncIterator]().next()).value ?? '');
  } finally {
    lines.close();
    if (shown) process.stdout.write('\n');
  }
}

function personNamed(db: Db, email: string) {
  const person = personByEmail(db, email);
  if (!person) throw new DatabaseRefused(`Nobody has an account of ${email}.`);
  return person;
}

const DOES: Readonly<Record<string, (db: Db, email: string, name?: string) => Promise<string>>> = {
  owner: async (db, email, name) => {
    const given = newPersonSchema.parse({
      email,
      name: name ?? email.split('@')[0],
      password: await askPassword(),
    });
    await makeOwner(db, given);
    return `${given.email} owns the whole installation now, and can sign in.`;
  },
  recover: async (db, email) => {
    const { key } = await makeRecovery(db, personNamed(db, email).email);
    const home = publicAddress()?.origin ?? `http://127.0.0.1:${portFrom(process.env.PORT) ?? 3000}`;
    return `Good for ${RECOVERY_HOURS} hours, opens once:\n${home}/pass/${key}`;
  },
  'drop-factor': async (db, email) => {
    await dropSecondFactor(db, personNamed(db, email).id);
    return `${email} signs in with the password alone now.`;
  },
  list: async (db) =>
    listPeople(db)
      .map(({ id, name, email, administrator }) => {
        const sites = siteNamesOf(db, id).map((one) => `${one.name} (${one.role})`);
        return [email, name, administrator ? 'owns the whole installation' : sites.join(', ')].join('  ');
      })
      .join('\n') || 'Nobody has an account.',
};

/** `npm run account -- …`: what only whoever runs the machine can do for accounts, while the server runs or not. */
async function main(): Promise<void> {
  const [what = '', email = '', ...name] = process.argv.slice(2);
  const does = Object.hasOwn(DOES, what) ? DOES[what] : undefined;
  if (!does || (what !== 'list' && email === '')) throw new DatabaseRefused(HOW);
  checkDatabaseFile(databaseFile());
  const db = connect(databaseFile());
  try {
    bringForward(db);
    console.log(await does(db, email, name.join(' ') || undefined));
  } finally {
    disconnect(db);
  }
}

main().catch((error: unknown) => {
  const told =
    error instanceof z.ZodError
      ? error.issues.map(({ message }) => message).join(' ')
      : error instanceof DatabaseRefused || error instanceof InputError
        ? error.message
        : error;
  console.error(told);
  process.exit(1);
});
