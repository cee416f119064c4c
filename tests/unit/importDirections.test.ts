import { execFileSync } from 'node:child_process';

const CASES = [
  {
    name: 'core from store',
    file: 'src/core/example.ts',
    code: "import { database } from '../store/database';\nexport const x = database;\n",
    reported: ['import/no-restricted-paths'],
  },
  {
    name: 'core from store, by the alias',
    file: 'src/core/example.ts',
    code: "import { database } from '@/store/database';\nexport const x = database;\n",
    reported: ['import/no-restricted-paths'],
  },
  {
    name: 'ui from store',
    file: 'src/ui/example.ts',
    code: "import { database } from '@/store/database';\nexport const x = database;\n",
    reported: ['import/no-restricted-paths'],
  },
  {
    name: 'store from jobs',
    file: 'src/store/example.ts',
    code: "import { startRunner } from '../jobs/runner';\nexport const x = startRunner;\n",
    reported: ['import/no-restricted-paths'],
  },
  {
    name: 'store from core',
    file: 'src/store/example.ts',
    code: "import { asDay } from '../core/calendar/day';\nexport const x = asDay;\n",
    reported: [],
  },
  {
    name: 'a clock and a global random in core',
    file: 'src/core/example.ts',
    code: 'export const x = Math.random() + Date.now();\n',
    reported: ['no-restricted-properties', 'no-restricted-properties'],
  },
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

test('imports against the arrows are reported, those along them are not', () => {
  const printed = execFileSync(process.execPath, [
    '--input-type=module',
    '-e',
    LINT_ALL,
    JSON.stringify(CASES),
  ]);
  const found = JSON.parse(printed.toString()) as string[][];
  expect(CASES.map(({ name }, i) => [name, found[i]])).toEqual(
    CASES.map(({ name, reported }) => [name, reported]),
  );
}, 60_000);
