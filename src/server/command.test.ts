import { linkSync, mkdirSync, mkdtempSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { targetNamed } from './command';

let dir: string;
const { argv, env } = process;
beforeEach(() => {
  dir = mkdtempSync(path.join(tmpdir(), 'tally-command-'));
  mkdirSync(path.join(dir, 'data', 'backups'), { recursive: true });
  writeFileSync(path.join(dir, 'data', 'tally.sqlite'), 'the database');
  process.env = { ...env, TALLY_DATA_DIR: path.join(dir, 'data'), INIT_CWD: dir };
});
afterEach(() => {
  process.argv = argv;
  process.env = env;
  rmSync(dir, { recursive: true });
});

const target = (...args: string[]) => {
  process.argv = ['node', 'backup.mjs', ...args];
  return targetNamed('backup');
};

test.each(['data/tally.sqlite', 'data/new.zip', 'data/backups/new.zip', './data/../data/new.zip'])(
  'a command writes nothing into the folder of the data: %s',
  (name) => {
    expect(() => target(name)).toThrow('is in the data folder');
    expect(() => target(name, '--replace')).toThrow('is in the data folder');
  },
);

test('nor by a link of either kind', () => {
  symlinkSync(path.join(dir, 'data'), path.join(dir, 'linked'));
  symlinkSync(path.join(dir, 'data', 'tally.sqlite'), path.join(dir, 'soft.zip'));
  linkSync(path.join(dir, 'data', 'tally.sqlite'), path.join(dir, 'hard.zip'));
  for (const name of ['linked/new.zip', 'soft.zip', 'hard.zip'])
    expect(() => target(name, '--replace')).toThrow('is in the data folder');
});

test('a file that is there is written over only where that is said', () => {
  expect(target('new.zip')).toBe(path.join(dir, 'new.zip'));
  writeFileSync(path.join(dir, 'old.zip'), 'yesterday');
  expect(() => target('old.zip')).toThrow('already exists');
  expect(target('old.zip', '--replace')).toBe(path.join(dir, 'old.zip'));
  expect(() => target()).toThrow('Name one file');
  expect(() => target('a.zip', 'b.zip')).toThrow('Name one file');
});
