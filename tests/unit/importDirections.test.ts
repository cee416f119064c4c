import { execFileSync, spawnSync } from 'node:child_process';
import { copyFileSync, mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';

/** A small source tree, each file by its name, with an import that one rule forbids in most of them. */
const FILES = {
  'core/calendar/day.ts': 'export const day = 1;',
  'core/fromStore.ts': "import { db } from '../store/database';\nexport const x = db;",
  'core/fromStoreByAlias.ts': "import type { Db } from '@/store/database';\nexport type X = Db;",
  'core/model/change.ts': "import { format } from '../words/format';\nexport const x = format;",
  'core/words/format.ts': "import { pool } from '../effect/pool';\nexport const format = pool;",
  'core/effect/pool.ts': "import { plural } from '../words/plural';\nexport const pool = plural;",
  'core/words/plural.ts': 'export const plural = 1;',
  'store/database.ts':
    "import { day } from '../core/calendar/day';\nexport const db = day;\nexport type Db = 1;",
  'store/fromJobs.ts': "import { run } from '../jobs/runner';\nexport const x = run;",
  'jobs/runner.ts': "import { again } from './again';\nexport const run = () => again;",
  'jobs/again.ts': "import { run } from './runner';\nexport const again = run;",
  'ui/fromStore.tsx': "import { db } from '@/store/database';\nexport const x = db;",
};

test('imports against the directions, and circles of files or folders, are reported', () => {
  const root = process.cwd();
  const dir = mkdtempSync(path.join(tmpdir(), 'tally-imports-'));
  try {
    copyFileSync('tsconfig.json', path.join(dir, 'tsconfig.json'));
    for (const [name, code] of Object.entries(FILES)) {
      const file = path.join(dir, 'src', name);
      mkdirSync(path.dirname(file), { recursive: true });
      writeFileSync(file, code);
    }
    const program = path.join(root, 'node_modules/dependency-cruiser/bin/dependency-cruise.mjs');
    const config = path.join(root, '.dependency-cruiser.mjs');
    const { stdout } = spawnSync(
      process.execPath,
      [program, 'src', '--config', config, '--output-type', 'json'],
      { cwd: dir, encoding: 'utf8' },
    );
    const { summary } = JSON.parse(stdout) as {
      summary: { violations: { rule: { name: string }; from: string }[] };
    };
    const found = summary.violations.map(({ rule, from }) => `${rule.name}: ${from}`);
    expect([...new Set(found)].sort()).toEqual([
      'core-imports: src/core/fromStore.ts',
      'core-imports: src/core/fromStoreByAlias.ts',
      'model-is-the-ground: src/core/model/change.ts',
      'no-circular-files: src/jobs/again.ts',
      'no-circular-folders: src/core/effect',
      'no-circular-folders: src/core/words',
      'store-imports: src/store/fromJobs.ts',
      'ui-imports: src/ui/fromStore.tsx',
    ]);
  } finally {
    rmSync(dir, { recursive: true, force: true });
  }
}, 60_000);

const LINTED = [
  { file: 'src/core/example.ts', code: 'export const x = Math.random() + Date.now();\n' },
  { file: 'src/services/example.ts', code: 'export const x = (db: { $client: object }) => db.$client;\n' },
  { file: 'src/store/example.ts', code: 'export const x = (db: { $client: object }) => db.$client;\n' },
];

// The linter loads its configuration as a module, which Jest's sandbox cannot; hence a process of its own.
const LINT_ALL = `
  import { ESLint } from 'eslint';
  const eslint = new ESLint();
  const found = [];
  for (const { file, code } of JSON.parse(process.argv[1])) {
    const [result] = await eslint.lintText(code, { filePath: file });
    found.push(result.messages.map((message) => message.ruleId));
  }
  console.log(JSON.stringify(found));
`;

test('a clock in the core, and a database connection used outside the store, are reported', () => {
  const printed = execFileSync(process.execPath, [
    '--input-type=module',
    '-e',
    LINT_ALL,
    JSON.stringify(LINTED),
  ]);
  const rule = 'no-restricted-properties';
  expect(JSON.parse(printed.toString())).toEqual([[rule, rule], [rule], []]);
}, 60_000);
