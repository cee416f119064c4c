import {
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  statSync,
  truncateSync,
  writeFileSync,
} from 'node:fs';
import path from 'node:path';
import { newChangeSchema } from '../core/model/change';
import { TempStore } from '../../tests/support/tempDb';
import { makeBackup, restoreBackup } from './backup';
import { connect, newestKnownMigration } from './database';
import { databaseFile } from './paths';
import { addImport } from './figures/imports';
import { addChange } from './ledger/changes';
import { listChanges } from './ledger/findChanges';

let [store, other]: TempStore[] = [];
let target: string;
beforeEach(() => {
  [store, other] = [new TempStore(), new TempStore()];
  other.db.$client.close();
  target = path.join(other.dir, 'backup.zip');
});
afterEach(() => {
  store!.close();
  other!.close();
});

const log = async (site: Awaited<ReturnType<TempStore['site']>>, n: number) => {
  const input = { title: `Change ${n}`, kind: 'title-rewrite', day: '2026-09-14', pages: [`/p${n}`] };
  await addChange(store!.db, site, newChangeSchema.parse(input));
};
const restored = () => connect(databaseFile(other!.dir));

test('a backup of a database in use holds all of it, and the files that wait', async () => {
  const site = await store!.site();
  for (let n = 0; n < 20; n++) await log(site, n);
  const uploads = path.join(store!.dir, 'uploads');
  mkdirSync(uploads);
  mkdirSync(path.join(store!.dir, 'outside'));
  writeFileSync(path.join(store!.dir, 'outside', 'pages.json'), '{}');
  const waiting = await addImport(store!.db, {
    ...{ siteId: site.id, fileName: 'a.csv', bytesTotal: 3, takenOn: 20_000 as never, state: 'queued' },
  });
  for (const name of [`${waiting}.csv`, `${waiting}.csv.sheet`, '99.csv', 'half.part'])
    writeFileSync(path.join(uploads, name), name);
  // It is written to at the same time.
  const writing = (async () => {
    for (let n = 20; n < 60; n++) await log(site, n);
  })();
  const { counts, files } = await makeBackup(store!.dir, target);
  await writing;
  expect(files.map(({ name }) => name)).toEqual([
    ...['outside/pages.json', 'tally.sqlite', `uploads/${waiting}.csv`, `uploads/${waiting}.csv.sheet`],
  ]);
  expect(counts.change).toBeGreaterThanOrEqual(20);
  expect(readdirSync(store!.dir).filter((name) => name.startsWith('backup-'))).toEqual([]);

  const { keptIn } = await restoreBackup(target, other!.dir, newestKnownMigration());
  const db = restored();
  expect(listChanges(db, site.id)).toHaveLength(counts.change!);
  db.$client.close();
  expect(readFileSync(path.join(other!.dir, 'uploads', `${waiting}.csv`), 'utf8')).toBe(`${waiting}.csv`);
  // What was there is kept.
  expect(existsSync(path.join(keptIn!, 'tally.sqlite'))).toBe(true);
  expect(statSync(target).mode & 0o077).toBe(0);
});

test('a backup that is cut off, altered or newer is refused, and nothing is touched', async () => {
  await store!.site();
  await makeBackup(store!.dir, target);
  const before = readdirSync(other!.dir).sort();
  const whole = readFileSync(target);
  const tries: [() => void, RegExp, number?][] = [
    [() => truncateSync(target, whole.length - 500), /no whole backup/],
    [() => writeFileSync(target, 'nothing of the kind'), /no whole backup/],
    [
      () => {
        const altered = Buffer.from(whole);
        altered[Math.floor(altered.length / 2)]! ^= 0xff;
        writeFileSync(target, altered);
      },
      /no whole backup/,
    ],
    [() => writeFileSync(target, whole), /newer version of Modest Tally/, 1],
  ];
  for (const [spoil, why, known = newestKnownMigration()] of tries) {
    spoil();
    await expect(restoreBackup(target, other!.dir, known)).rejects.toThrow(why);
    expect(readdirSync(other!.dir).sort()).toEqual(before);
  }
});

test('without a database there is nothing to back up', async () => {
  await expect(makeBackup(path.join(other!.dir, 'empty'), target)).rejects.toThrow(/no database/);
});

test('what people type is on the disk when it is answered; what can be done again need not be', () => {
  const mode = (db: ReturnType<typeof connect>) => {
    const value = db.$client.pragma('synchronous', { simple: true });
    db.$client.close();
    return value;
  };
  // https://sqlite.org/pragma.html#pragma_synchronous: 2 is FULL, 1 is NORMAL.
  expect([mode(connect(store!.file)), mode(connect(store!.file, { canBeRepeated: true }))]).toEqual([2, 1]);
});
