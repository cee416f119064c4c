/* Which part of the source may import which. `npx depcruise src` checks it, and so does `npm test`. */

/** The folders of `src`, each with those it may import from. */
const DIRECTIONS = {
  core: [],
  store: ['core'],
  services: ['core', 'store'],
  jobs: ['core', 'store', 'services', 'outside'],
  outside: ['core'],
  demo: ['core', 'store', 'services', 'jobs', 'outside'],
  bench: ['core', 'store', 'services', 'jobs'],
  ui: ['core'],
  server: ['core', 'store', 'services', 'jobs'],
  app: ['core', 'store', 'services', 'jobs', 'ui', 'outside'],
};

const directions = Object.entries(DIRECTIONS).map(([folder, allowed]) => ({
  name: `${folder}-imports`,
  comment: `src/${folder} imports from ${allowed.length === 0 ? 'nothing else' : allowed.join(', ')}.`,
  severity: 'error',
  from: { path: `^src/${folder}/` },
  to: { path: `^src/(?!${[folder, ...allowed].join('|')})[^/]+/` },
}));

export default {
  forbidden: [
    ...directions,
    {
      name: 'no-circular-files',
      comment: 'Two files that need each other are one, or share a third.',
      severity: 'error',
      from: { path: '^src/' },
      to: { circular: true },
    },
    {
      name: 'no-circular-folders',
      comment: 'Each folder of the core can be understood from those below it.',
      severity: 'error',
      scope: 'folder',
      from: { path: '^src/core/' },
      to: { circular: true },
    },
    {
      name: 'model-is-the-ground',
      comment: 'src/core/model imports the calendar and the measures only.',
      severity: 'error',
      from: { path: '^src/core/model/' },
      to: { path: '^src/core/(?!model|calendar|measures)' },
    },
    {
      name: 'sql-only-in-store',
      comment: 'All SQL is in src/store.',
      severity: 'error',
      from: { path: '^src/', pathNot: '^src/store/' },
      to: { path: 'node_modules/(drizzle-orm|better-sqlite3)' },
    },
  ],
  options: {
    exclude: { path: ['\\.test\\.tsx?$', '^tests/'] },
    doNotFollow: { path: 'node_modules' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
    enhancedResolveOptions: { extensions: ['.ts', '.tsx', '.mjs', '.js'] },
  },
};
