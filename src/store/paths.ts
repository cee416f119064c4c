import path from 'node:path';

/** Where the program keeps its data: TALLY_DATA_DIR, or `data/own` in the folder it is started from. */
export function dataDir(): string {
  return path.resolve(/* turbopackIgnore: true */ process.env.TALLY_DATA_DIR || path.join('data', 'own'));
}

export function databaseFile(dir = dataDir()): string {
  return path.join(dir, 'tally.sqlite');
}
